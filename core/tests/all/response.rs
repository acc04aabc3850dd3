//! What meets a standard, and the tables of the trade behind it.

use cavesson_core::response::{Answer, Part, Rep, ResponseTime, Share, Shortfall, Standard, Tally, Weight};
use proptest::prelude::*;

fn rep(answer: Answer, weight: Weight, seconds: Option<f64>) -> Rep {
    Rep { answer, weight, time: seconds.map(|s| ResponseTime::from_seconds(s).unwrap()) }
}

/// The scale of weights and its nominal forces: common practice in the trade, no published source.
#[test]
fn weights_stand_in_the_order_of_the_scale_and_of_their_forces() {
    let forces: Vec<u32> = Weight::ALL.iter().map(|w| w.millinewtons()).collect();
    assert_eq!(forces, [0, 100, 500, 1_000, 2_000, 5_000, 15_000, 30_000]);
    assert!(Weight::ALL.is_sorted());
    for weight in Weight::ALL {
        assert_eq!(weight.word().parse(), Ok(weight));
    }
    assert!("brick".parse::<Weight>().unwrap_err().to_string().contains("lemon"));
}

/// The default standard, 80 % / lemon / 2.0 s / 3 days: common practice, no published source.
#[test]
fn a_rep_meets_the_default_standard_up_to_its_edges() {
    let standard = Standard::default();
    let table = [
        (rep(Answer::Gave, Weight::Lemon, Some(2.0)), None),
        (rep(Answer::Gave, Weight::None, None), None),
        (rep(Answer::Gave, Weight::Orange, Some(1.0)), Some(Shortfall::Weight)),
        (rep(Answer::Gave, Weight::Lemon, Some(2.001)), Some(Shortfall::Time)),
        (rep(Answer::Tried { missing: None }, Weight::None, Some(0.1)), Some(Shortfall::Answer)),
        (rep(Answer::None, Weight::Tug, None), Some(Shortfall::Answer)),
    ];
    for (rep, shortfall) in table {
        assert_eq!(standard.shortfall(&rep), shortfall, "{rep:?}");
        assert_eq!(standard.is_met_by(&rep), shortfall.is_none());
    }
    assert_eq!(standard.in_words(), "8 of 10 at a lemon or less, within 2.0 s, on 3 days");
}

/// A stop is "the feet have stopped and it is off the bridle": common practice, no published source.
#[test]
fn a_two_part_answer_counts_only_when_whole() {
    let standard = Standard::default();
    let half = rep(Answer::of_parts(true, false), Weight::Egg, Some(1.0));
    assert_eq!(half.answer, Answer::Tried { missing: Some(Part::Second) });
    assert!(!standard.is_met_by(&half));
    assert!(standard.is_met_by(&rep(Answer::of_parts(true, true), Weight::Egg, Some(1.0))));
    assert_eq!(Answer::of_parts(false, false), Answer::None);
}

#[test]
fn times_and_shares_refuse_what_cannot_be() {
    for bad in [-0.1, 3600.1, f64::NAN, f64::INFINITY] {
        assert!(ResponseTime::from_seconds(bad).is_err(), "{bad}");
    }
    assert_eq!(ResponseTime::from_seconds(3600.0).unwrap(), ResponseTime::MAX);
    for bad in [0.0, 1.0, -0.5, f64::NAN] {
        assert!(Share::new(bad).is_err(), "{bad}");
    }
    assert_eq!(Share::new(0.825).unwrap().to_string(), "82.5%");
}

fn any_rep() -> impl Strategy<Value = Rep> {
    (0..3_usize, 0..8_usize, prop::option::of(0.0..10.0_f64)).prop_map(|(answer, weight, seconds)| {
        let answer = [Answer::Gave, Answer::Tried { missing: None }, Answer::None][answer];
        rep(answer, Weight::ALL[weight], seconds)
    })
}

proptest! {
    #[test]
    fn a_lighter_rep_never_meets_less(r in any_rep(), lighter in 0..8_usize) {
        let standard = Standard::default();
        let light = Rep { weight: Weight::ALL[lighter].min(r.weight), ..r };
        prop_assert!(!standard.is_met_by(&r) || standard.is_met_by(&light));
    }

    #[test]
    fn a_tally_accounts_for_every_rep(reps in prop::collection::vec(any_rep(), 0..40)) {
        let tally = Tally::of(&Standard::default(), &reps);
        prop_assert_eq!(tally.reps as usize, reps.len());
        prop_assert_eq!(tally.reps, tally.met + tally.not_whole + tally.heavy + tally.slow);
    }
}
