//! Whether a fault got rarer after its remedy was worked. Common practice, no published source.

use cavesson_core::{
    advice::{AskContext, Cure, cures},
    curriculum::{Curriculum, Gait, Place, Side},
};
use statrs::distribution::{Beta, ContinuousCDF};

use crate::support::date;

/// So many asks of a rung on a day, of which the first show the fault.
fn asks(day: u64, rung: &str, n: usize, faults: usize) -> Vec<AskContext> {
    let ask = |i: usize| AskContext {
        date: date(day),
        rung: rung.into(),
        gait: Gait::Walk,
        side: Side::Both,
        place: Place::Arena,
        rider: "Ada".into(),
        bit: None,
        late: false,
        hot: None,
        faults: if i < faults { vec!["head-up".into()] } else { vec![] },
    };
    (0..n).map(ask).collect()
}

fn told(asked: &[Vec<AskContext>]) -> Vec<Cure> {
    cures(Curriculum::standard().faults(), &asked.concat())
}

/// Stops with heads up on two days, the bend on three, and stops again.
fn bent_and_stopped(again: usize) -> Vec<Vec<AskContext>> {
    let mut days = vec![asks(0, "T2", 7, 3), asks(2, "T2", 7, 3)];
    days.extend([4, 6, 8].map(|day| asks(day, "S2", 8, 0)));
    days.push(asks(10, "T2", 12, again));
    days
}

#[test]
fn a_fault_that_got_rarer_is_told_with_both_counts() {
    let all = told(&bent_and_stopped(0));
    let [cure] = all.as_slice() else { panic!("{all:?}") };
    assert_eq!((cure.before, cure.after, cure.rides), ((6, 14), (0, 12), 3));
    assert_eq!((cure.at.as_str(), cure.remedy.as_str()), ("T2", "S2"));
    let says = cure.in_words(Curriculum::standard()).unwrap();
    assert_eq!(
        says,
        "After 3 rides of bend and walk: head up in 0 of 12 asks of stop at the walk, before in 6 of 14: it helped"
    );
}

#[test]
fn a_fault_that_did_not_says_that_the_cause_is_another() {
    let cure = told(&bent_and_stopped(6)).remove(0);
    assert!(cure.rarer < 0.6, "{cure:?}");
    assert!(cure.in_words(Curriculum::standard()).unwrap().ends_with("no rarer, so the cause is likely another"));
}

#[test]
fn nothing_is_told_before_the_work_came_back_to_where_it_was() {
    let mut days = bent_and_stopped(0);
    days.pop();
    assert_eq!(told(&days), [], "no stop since");
    days.push(asks(10, "T2", 5, 0));
    assert_eq!(told(&days), [], "five asks say little");
    let twice = vec![asks(0, "T2", 14, 6), asks(4, "S2", 8, 0), asks(6, "S2", 8, 0), asks(10, "T2", 12, 0)];
    assert_eq!(told(&twice), [], "two rides of the remedy");
    let once = vec![
        asks(0, "T2", 14, 1),
        asks(4, "S2", 8, 0),
        asks(6, "S2", 8, 0),
        asks(8, "S2", 8, 0),
        asks(10, "T2", 12, 0),
    ];
    assert_eq!(told(&once), [], "once is no fault to cure");
    // What was worked before the fault showed is no remedy for it.
    let before =
        [0, 2, 4].map(|day| asks(day, "S2", 8, 0)).into_iter().chain([asks(6, "T2", 14, 6), asks(8, "T2", 12, 0)]);
    assert_eq!(told(&before.collect::<Vec<_>>()), []);
}

/// The odds against a sum over a fine grid of both shares.
#[test]
fn the_odds_are_those_of_two_beta_posteriors() {
    let cure = told(&bent_and_stopped(2)).remove(0);
    let (before, after) = (Beta::new(6.5, 8.5).unwrap(), Beta::new(2.5, 10.5).unwrap());
    const N: u32 = 2000;
    let part = |b: &Beta, i: u32| b.cdf(f64::from(i + 1) / f64::from(N)) - b.cdf(f64::from(i) / f64::from(N));
    let exact: f64 = (0..N).map(|i| part(&after, i) * (1.0 - before.cdf((f64::from(i) + 0.5) / f64::from(N)))).sum();
    assert!((cure.rarer - exact).abs() < 0.003, "{} against {exact}", cure.rarer);
}
