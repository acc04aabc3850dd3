//! What pieces may measure, what is said of them, and what a comparison of two comes to.

use cavesson_core::{
    ride::Mouthpiece,
    tack::{
        BosalMeasures, ChinTold, Compared, Difference, INCH, LeverageMeasures, Measures, SnaffleMeasures, Verdict,
        may_show, shown_in, tack_cautions,
    },
};

fn leverage() -> LeverageMeasures {
    LeverageMeasures {
        purchase: 1.75 * INCH,
        shank: 5.0 * INCH,
        sweep: 15f64.to_radians(),
        slack: 1.5 * INCH,
        chin_behind: 2.0 * INCH,
        chin: ChinTold::Tape { below: 0.25 * INCH },
        headstall: 18.0 * INCH,
        give: 0.05 * INCH,
    }
}

const PULL: f64 = 0.7;

#[test]
fn ends_of_ranges_are_in_and_everything_wrong_is_named() {
    let ends = LeverageMeasures { purchase: 0.5 * INCH, shank: 12.0 * INCH, sweep: 60f64.to_radians(), ..leverage() };
    assert!(Measures::Leverage(ends).wrong().is_empty());
    let bad = LeverageMeasures { purchase: 0.4 * INCH, shank: 13.0 * INCH, sweep: 1.2, ..leverage() };
    let fields: Vec<&str> = Measures::Leverage(bad).wrong().iter().map(|w| w.field).collect();
    assert_eq!(fields, ["purchase", "shank", "sweep"]);
    let none = LeverageMeasures { slack: f64::NAN, ..leverage() };
    assert_eq!(Measures::Leverage(none).wrong()[0].field, "slack");
    let bosal = BosalMeasures { length: 11.0 * INCH, jaw: 12.0 * INCH, thick: 0.5 * INCH, lean: 0.6 };
    assert_eq!(Measures::Bosal(bosal).wrong()[0].text, "1 to 11 in", "it bears under the jaw before its end");
}

/// Inches typed where millimetres are meant, and the other way round, are asked about.
#[test]
fn inches_and_millimetres_are_asked_about() {
    let ring = |ring: f64| Measures::Snaffle(SnaffleMeasures { width: 5.0 * INCH, ring }).wrong();
    assert_eq!(ring(76.0 * INCH)[0].text, "1 to 6 in; were these 76 millimetres? That is 2.99 in");
    assert_eq!(ring(0.003)[0].text, "1 to 6 in; were these 3.00 inches, typed as millimetres?");
    assert_eq!(ring(30.0)[0].text, "1 to 6 in", "no unit makes that a ring");
}

#[test]
fn a_chin_by_the_angle_hangs_as_it_was_measured() {
    let measured = LeverageMeasures { chin: ChinTold::Angle { tight: 0.8 }, ..leverage() };
    let hung = measured.hung(PULL).unwrap();
    assert!((hung.tight().unwrap() - 0.8).abs() < 1e-6);
    let never = LeverageMeasures { chin: ChinTold::Angle { tight: 1.4 }, ..leverage() };
    assert_eq!(never.hung(PULL).unwrap_err().field, "chin.tight");
    assert_eq!(leverage().hung(2.0).unwrap_err().field, "sweep");
}

#[test]
fn cautions_are_for_what_hangs_there() {
    let of = |m: LeverageMeasures| tack_cautions(&Measures::Leverage(m), m.hung(PULL).ok().as_ref()).join(" ");
    let at_once = of(LeverageMeasures { slack: 0.0, ..leverage() });
    assert!(at_once.contains("holds at once"), "{at_once}");
    assert!(of(LeverageMeasures { slack: 2.5 * INCH, ..leverage() }).contains("never holds"));
    let late = of(LeverageMeasures { slack: 1.75 * INCH, ..leverage() });
    assert!(late.contains("corner of the mouth") && late.contains("First asks to the side"), "{late}");
    assert!(of(LeverageMeasures { shank: 7.0 * INCH, ..leverage() }).contains("8½ in"));
    assert!(!of(LeverageMeasures { shank: 6.75 * INCH, ..leverage() }).contains("8½ in"), "8½ in is allowed");
    let bosal = |thick: f64| {
        tack_cautions(&Measures::Bosal(BosalMeasures { length: 0.28, jaw: 0.2, thick: thick * INCH, lean: 0.6 }), None)
    };
    assert!(bosal(0.75).is_empty() && bosal(0.8)[0].contains("¾ in"));
}

#[test]
fn a_horse_is_shown_by_its_age() {
    assert_eq!(may_show(5, Mouthpiece::Snaffle), may_show(3, Mouthpiece::Bitless));
    assert_ne!(may_show(5, Mouthpiece::Snaffle), may_show(6, Mouthpiece::Snaffle));
    assert_eq!(may_show(4, Mouthpiece::Leverage), may_show(9, Mouthpiece::Leverage));
}

/// The published figures: shanks to 8½ in, rings 2 to 4 in, bosals to ¾ in; five and under two-handed, older ones in a bridle.
#[test]
fn a_piece_is_shown_class_by_class() {
    let may = |years, wears, measures: Option<Measures>| shown_in(years, wears, measures.as_ref()).map(|of| of.may);
    let snaffle = |ring: f64| Some(Measures::Snaffle(SnaffleMeasures { width: 0.127, ring: ring * INCH }));
    assert_eq!(may(Some(5), Mouthpiece::Snaffle, snaffle(3.0)), [true, false]);
    assert_eq!(may(Some(6), Mouthpiece::Snaffle, snaffle(3.0)), [false, false]);
    assert_eq!(may(Some(4), Mouthpiece::Snaffle, snaffle(4.25)), [false, false]);
    assert_eq!(may(None, Mouthpiece::Bitless, None), [false, false]);
    let long = LeverageMeasures { shank: 7.0 * INCH, ..leverage() };
    assert_eq!(may(Some(4), Mouthpiece::Leverage, Some(Measures::Leverage(leverage()))), [false, true]);
    assert_eq!(may(Some(9), Mouthpiece::Leverage, Some(Measures::Leverage(long))), [false, false]);
    let unmeasured = shown_in(Some(9), Mouthpiece::Leverage, None);
    assert!(unmeasured[1].may && unmeasured[1].why.contains("not measured"), "{unmeasured:?}");
}

#[test]
fn a_verdict_weighs_weight_against_whole_answers() {
    let d = |low: f64, high: f64| Difference { by: (low + high) / 2.0, low, high, in_a_month: 0.0 };
    let verdict = |weight, seconds, whole| {
        let compared = Compared { kinds: 1, days: [5, 5], asks: [20, 20], weight, seconds, whole };
        compared.verdict()
    };
    let (same, lighter, heavier) = (d(-0.2, 0.2), d(-1.0, -0.3), d(0.3, 1.0));
    assert_eq!(verdict(lighter, None, same), Verdict::Lighter);
    assert_eq!(verdict(heavier, None, same), Verdict::Heavier);
    assert_eq!(verdict(lighter, None, d(-0.3, -0.1)), Verdict::Heavier, "lighter, and fewer answers are whole");
    assert_eq!(verdict(same, Some(d(-0.5, -0.1)), same), Verdict::Lighter, "as light, and sooner");
    assert_eq!(verdict(same, None, same), Verdict::Alike);
    assert_eq!(verdict(d(-1.0, 0.5), None, same), Verdict::Unknown);
}
