//! The calls and forecasts on herds of simulated horses whose true state is known: bounds that hold on every kind.

use cavesson_core::{advice::Posture, belief::ModelSettings};
use cavesson_judge::{
    Family, Figures, PainFigures, Tally, Thumb, cause_figures, cause_table, forecast_table, forecasts, herds_table,
    intake_figures, intake_table, tally, trend_table, trends,
};
use cavesson_sim::KINDS;

fn families(horses: u32) -> Vec<Family> {
    KINDS.iter().map(|kind| Family::of_kind(kind, horses, 13)).collect()
}

/// The kinds whose rungs are counted in asks: how long a rung waits before it is begun was set on them.
fn in_asks(horses: u32) -> Vec<Family> {
    let kinds = KINDS.iter().filter(|kind| kind.counted == 0.0);
    kinds.map(|kind| Family::of_kind(kind, horses, 13)).collect()
}

#[test]
fn the_calls_keep_their_bounds_on_every_kind_of_herd() {
    let families = families(40);
    let said: Vec<Tally> = std::thread::scope(|scope| {
        let of = |family| scope.spawn(move || tally(family, Posture::Steady, &ModelSettings::default()));
        let running: Vec<_> = families.iter().map(of).collect();
        running.into_iter().map(|one| one.join().expect("a tally")).collect()
    });
    let (mut losses, mut found, mut backs, mut wrong) = (0, 0, 0.0, 0.0);
    let (mut called, mut nothing, mut fell, mut seen) = (0, 0, 0, 0);
    for (family, said) in families.iter().zip(&said) {
        let (f, name) = (Figures::of(family, &said.calls), &family.name);
        assert!((0.84..=0.98).contains(&said.cover), "{name}: {}", said.cover);
        assert!(f.false_advances < 0.16 && f.false_per_100 < 1.0, "{name}: {f:?}");
        losses += f.losses;
        found += f.found;
        backs += f.backs as f64;
        wrong += f.false_backs * f.backs as f64;
        let pain = PainFigures::of(family, said);
        (called, nothing) = (called + pain.called, nothing + pain.wrong);
        (fell, seen) = (fell + pain.fell, seen + pain.found);
    }
    // Single kinds lose little: how much is found is counted over all.
    assert!(losses > 15 && found * 10 >= losses * 6, "{found} of {losses}");
    assert!(wrong < 0.1 * backs, "{wrong} of {backs} backs are false");
    assert!(
        nothing * 4 <= called,
        "of {called} horses that were called possible pain, {nothing} had lost nothing there"
    );
    assert!(seen * 3 >= fell, "of {fell} horses that fell off on one side, {seen} were called");
}

/// What is said as one in ten, one in two and nine in ten comes true about as often, and better than by the barn's median days or a
/// straight line.
#[test]
fn forecasts_come_true_about_as_often_as_they_say() {
    let figures = forecasts(&in_asks(40), &ModelSettings::default());
    let table = forecast_table(&figures);
    // Forecasts of one horse hang together: under so many, what comes of them is chance.
    const ENOUGH: usize = 200;
    for f in &figures {
        let near = |name: &str, dates: cavesson_judge::Dates, low: f64, high: f64| {
            let fair = dates.said < ENOUGH || (low..=high).contains(&dates.share());
            assert!(fair, "{name}, begun {}, {} weeks: {dates:?}\n{table}", f.begun, f.weeks);
        };
        near("one in ten", f.early, 0.05, 0.15);
        near("one in two", f.middle.half, 0.40, 0.60);
        near("nine in ten", f.late, 0.85, 0.96);
        near("60 to 80 %", f.likely, 0.58, 0.82);
    }
    let soon = &figures[0];
    assert!(soon.begun && soon.weeks == 2 && soon.middle.half.said > ENOUGH, "{table}");
    let off = |share: f64| (share - 0.5).abs();
    for thumb in [Thumb::BarnMedian, Thumb::StraightLine] {
        assert!(off(soon.middle.half.share()) < off(soon.thumbs[&thumb].half.share()), "{table}");
    }
}

/// What is counted in something else than asks is foreseen as well, once it is begun. Nothing is fitted to these herds.
#[test]
fn forecasts_of_counted_rungs_come_true_about_as_often_as_they_say() {
    let counted = KINDS.iter().find(|kind| kind.counted > 0.0).expect("a kind that is counted");
    let families: Vec<Family> = (0..3).map(|n| Family::of_kind(counted, 30, 100 + n)).collect();
    let figures = forecasts(&families, &ModelSettings::default());
    let table = forecast_table(&figures);
    let soon = figures.iter().find(|f| f.begun && f.weeks == 2).expect("a line for two weeks");
    assert!(soon.middle.half.said > 400 && soon.likely.said > 200, "{table}");
    assert!((0.40..=0.60).contains(&soon.middle.half.share()), "{table}");
    assert!((0.05..=0.15).contains(&soon.early.share()), "{table}");
    assert!((0.60..=0.85).contains(&soon.likely.share()), "{table}");
}

/// What the coach says of a change from ask to ask is there about as often as it says.
#[test]
fn changes_from_ask_to_ask_are_there_as_often_as_they_are_said() {
    const ENOUGH: usize = 80;
    let figures = trends(400, 11);
    let told = figures.iter().flat_map(|(name, bins)| bins.iter().map(move |bin| (name, bin)));
    let mut enough = 0;
    for (name, bin) in told.filter(|(_, bin)| bin.said >= ENOUGH) {
        enough += 1;
        let there = bin.there as f64 / bin.said as f64;
        assert!((there - bin.mean).abs() < 0.12, "{name}: {bin:?}\n{}", trend_table(&figures));
    }
    assert!(enough >= 8, "{}", trend_table(&figures));
}

/// The true cause of a fault comes first in two cases of three, a rung that was not reached never comes, and following it is quicker.
#[test]
fn the_true_cause_of_a_fault_is_mostly_named_first() {
    let f = cause_figures(10, 7);
    let table = cause_table(&f);
    assert!(f.horses > 200 && 3 * f.first >= 2 * f.horses, "{table}");
    assert_eq!(f.unreached, 0, "{table}");
    assert!(f.rides_followed < 0.6 * f.rides_there, "{table}");
}

#[test]
fn the_table_has_a_line_for_each_kind() {
    let families: Vec<Family> = KINDS.iter().map(|kind| Family::of_kind(kind, 2, 1)).collect();
    let table = herds_table(&families);
    assert!(KINDS.iter().all(|kind| table.contains(kind.name)), "{table}");
}

/// With a third of the asks, over three rides, an intake finds at least as many holes as three asks of everything, names fewer that
/// are none, and never asks at a gait whose brake was not shown.
#[test]
fn an_intake_finds_as_many_holes_with_a_third_of_the_asks() {
    let all = intake_figures(8, 7, &[&[30], &[29, 29, 29]]);
    let [everything, one_ride, third] = &all[..] else { panic!("{all:?}") };
    println!("{}", intake_table(&all));
    assert!(3 * third.asks <= everything.asks);
    assert!(third.found >= everything.found, "{} of {}, and {}", third.found, third.holes, everything.found);
    assert!(third.false_holes < everything.false_holes);
    assert!(all.iter().all(|f| f.unsafe_asks == 0));
    // One ride finds a good part of them.
    assert!(one_ride.asks <= 30 * one_ride.horses && 3 * one_ride.found >= one_ride.holes);
}
