use std::fmt::Write as _;

use cavesson_core::{advice::Posture, belief::ModelSettings};

use crate::{
    Calls, CauseFigures, Family, Figures, ForecastFigures, IntakeFigures, LeftOut, PainFigures, Tally, Thumb, TrendBin,
    advance_thumbs, back_thumbs, tally,
};

const HEAD: &str =
    "log loss  x ideal   holds   false  days lost  advances   backs   false  per 100   found  delay  stays";

fn line(table: &mut String, name: &str, told: Option<(&Tally, Option<f64>)>, f: &Figures, without_back: bool) {
    let percent = |x: f64| format!("{:.1}%", 100.0 * x);
    let (loss, times, holds) = told.map_or_else(Default::default, |(t, ideal)| {
        let times = ideal.map_or(String::new(), |i| format!("{:.3}", t.log_loss / i));
        (format!("{:.4}", t.log_loss), times, percent(t.cover))
    });
    let _ = write!(
        table,
        "{name:<20}{loss:>8}{times:>9}{holds:>8}{:>8}{:>11.2}{:>10}",
        percent(f.false_advances),
        f.sessions_lost,
        f.advances
    );
    if without_back {
        let _ = writeln!(table);
        return;
    }
    let _ = writeln!(
        table,
        "{:>8}{:>8}{:>9.2}{:>8}{:>7.1}{:>7.1}",
        f.backs,
        percent(f.false_backs),
        f.false_per_100,
        format!("{}/{}", f.found, f.losses),
        f.delay,
        f.stays
    );
}

/// How a family is called under each posture, beside the rules of thumb.
///
/// ```
/// use cavesson_judge::{Family, judge_table};
/// let table = judge_table(&Family::of_kind(&cavesson_sim::KINDS[0], 2, 1));
/// assert!(table.contains("steady") && table.contains("eight of ten"));
/// ```
pub fn judge_table(family: &Family) -> String {
    let mut table = format!("{:<20}{HEAD}\n", family.name);
    let mut steady = Calls::new();
    for posture in Posture::ALL {
        let said = tally(family, posture, &ModelSettings::default());
        line(&mut table, posture.word(), Some((&said, family.ideal)), &Figures::of(family, &said.calls), false);
        if posture == Posture::Steady {
            steady = said.calls;
        }
    }
    for (name, calls) in advance_thumbs(family) {
        line(&mut table, name, None, &Figures::of(family, &calls), true);
    }
    for (name, calls) in back_thumbs(family, &steady) {
        line(&mut table, name, None, &Figures::of(family, &calls), false);
    }
    table
}

/// How families are called with the settings in use, and how many of their horses are called possible pain.
pub fn herds_table(families: &[Family]) -> String {
    settings_table(families, &ModelSettings::default())
}

/// The same with other settings.
pub fn settings_table(families: &[Family], settings: &ModelSettings) -> String {
    let mut table = format!("{:<20}{HEAD}  pain  false   found  sessions\n", "");
    for family in families {
        let said = tally(family, Posture::Steady, settings);
        let pain = PainFigures::of(family, &said);
        line(&mut table, &family.name, Some((&said, family.ideal)), &Figures::of(family, &said.calls), false);
        let _ = table.pop();
        let _ = writeln!(
            table,
            "{:>6}{:>7}{:>8}{:>10}",
            pain.called,
            pain.wrong,
            format!("{}/{}", pain.found, pain.fell),
            pain.sessions
        );
    }
    table
}

/// How families did that were left out of a fit: with the settings in use, and with those that were fitted without them.
pub fn fit_table(left_out: &[LeftOut]) -> String {
    let mut table = format!("{:<20}{HEAD}\n", "");
    for family in left_out {
        for (name, (said, figures)) in [("in use", &family.in_use), ("without it", &family.without)] {
            line(&mut table, &format!("{}, {name}", family.name), Some((said, family.ideal)), figures, false);
        }
    }
    table
}

/// How forecasts did, and the rules of thumb beside them.
pub fn forecast_table(figures: &[ForecastFigures]) -> String {
    let mut table = format!(
        "{:<22}{:>14}{:>14}{:>14}{:>16}{:>8}{:>24}{:>24}\n",
        "",
        "one in ten",
        "one in two",
        "nine in ten",
        "said 60 to 80%",
        "misses",
        "barn's median, misses",
        "straight line, misses"
    );
    for f in figures {
        let of = |share: f64, said: usize| format!("{:.0}% of {said}", 100.0 * share);
        let days = |miss: Option<i64>| miss.map_or_else(String::new, |m| format!("{m} d"));
        let thumb = |thumb: Thumb| {
            f.thumbs
                .get(&thumb)
                .map_or_else(String::new, |t| format!("{}, {}", of(t.half.share(), t.half.said), days(t.usual_miss())))
        };
        let _ = writeln!(
            table,
            "{:<22}{:>14}{:>14}{:>14}{:>16}{:>8}{:>24}{:>24}",
            format!("{}, {} weeks", if f.begun { "begun" } else { "not begun" }, f.weeks),
            of(f.early.share(), f.early.said),
            of(f.middle.half.share(), f.middle.half.said),
            of(f.late.share(), f.late.said),
            of(f.likely.share(), f.likely.said),
            days(f.middle.usual_miss()),
            thumb(Thumb::BarnMedian),
            thumb(Thumb::StraightLine),
        );
    }
    table
}

/// How often a change from ask to ask that was said with some odds was there.
pub fn trend_table(figures: &[(&'static str, Vec<TrendBin>)]) -> String {
    let mut table = format!("{:<22}{:>10}{:>10}{:>10}\n", "", "said", "mean", "there");
    for (name, bins) in figures {
        for bin in bins {
            let _ = writeln!(
                table,
                "{:<22}{:>10}{:>9.0}%{:>9.0}%",
                format!("{name}, {:.0}%", 100.0 * bin.odds.0),
                bin.said,
                100.0 * bin.mean,
                100.0 * bin.there as f64 / bin.said.max(1) as f64
            );
        }
    }
    table
}

/// How causes of faults were named on simulated horses with one hole each.
pub fn cause_table(f: &CauseFigures) -> String {
    let percent = 100.0 * f.first as f64 / f.horses.max(1) as f64;
    format!(
        "true cause named first   {} of {} ({percent:.0}%)\nnamed, and not reached   {}\n\
         rides until it is gone   {:.1} on what is named first, {:.1} where it shows\n",
        f.first, f.horses, f.unreached, f.rides_followed, f.rides_there
    )
}

/// Ways of looking at horses that nobody knows, side by side.
///
/// ```
/// use cavesson_judge::{intake_figures, intake_table};
/// let table = intake_table(&intake_figures(2, 1, &[&[20]]));
/// assert!(table.contains("3 asks of everything") && table.contains("1 intake ride of 20"));
/// ```
pub fn intake_table(all: &[IntakeFigures]) -> String {
    let mut table = format!(
        "{:<24}{:>7}{:>8}{:>8}{:>8}{:>8}{:>12}\n",
        "", "asks", "holes", "found", "false", "stiff", "unsafe asks"
    );
    for f in all {
        let each = |n: usize| n as f64 / f.horses.max(1) as f64;
        let _ = writeln!(
            table,
            "{:<24}{:>7.1}{:>8.2}{:>8.2}{:>8.2}{:>8}{:>12}",
            f.name,
            each(f.asks),
            each(f.holes),
            each(f.found),
            each(f.false_holes),
            format!("{}/{}", f.stiff.1, f.stiff.0),
            f.unsafe_asks
        );
    }
    table
}
