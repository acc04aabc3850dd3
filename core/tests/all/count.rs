//! Rungs that are not counted in asks: each likelihood against a published distribution, and what follows from it.

use cavesson_core::{
    belief::{Belief, Day, ModelSettings, Observer, Work},
    count::{Count, CountError, ObstacleStage},
    curriculum::{Course, Gait, Measure, Side, Sides, Step},
    response::Standard,
};
use proptest::prelude::*;
use statrs::distribution::{Binomial, ContinuousCDF, Discrete, DiscreteCDF, Exp, Geometric, Poisson};

use crate::support::date;

const LAPS: Measure = Measure::Laps { most: 2 };
const TRIES: Measure = Measure::Tries { within: 3 };
const HELD: Measure = Measure::Held { seconds: 10 };
const STEPS: Measure = Measure::Steps { count: 10 };
const SHARES: [f64; 5] = [0.05, 0.3, 0.6, 0.8, 0.97];

fn close(told: f64, published: f64) {
    assert!((told - published).abs() < 1e-9 * published.max(1e-3), "{told} against {published}");
}

/// Against the distributions of a general-purpose library, over counts and shares. The share that meets the standard comes from the
/// library's own distribution function, not from the formula under test.
#[test]
fn each_likelihood_is_the_published_distribution() {
    for share in SHARES {
        let like = |count: Count, measure: Measure| count.ln_likelihood(measure, share).exp();
        let laps = Geometric::new(LAPS.chance_at(share)).unwrap();
        close(laps.cdf(2), share);
        let steps = Geometric::new(1.0 - STEPS.chance_at(share)).unwrap();
        close(steps.sf(10), share);
        let ups = Poisson::new(Measure::NoseUps.chance_at(share)).unwrap();
        close(ups.pmf(0), share);
        let held = Exp::new(HELD.chance_at(share)).unwrap();
        close(held.sf(10.0), share);
        for n in 1..=12_u8 {
            close(like(Count::Laps { laps: n, soft: true }, LAPS), laps.pmf(n.into()));
            close(like(Count::Laps { laps: n, soft: false }, LAPS), laps.sf(n.into()));
            close(like(Count::Steps { steps: n, broke: true }, STEPS), steps.pmf(u64::from(n) + 1));
            close(like(Count::Steps { steps: n, broke: false }, STEPS), steps.sf(n.into()));
            let (from, to) = (f64::from(n), f64::from(n) + 1.0);
            close(like(Count::Held { seconds: n.into(), lost: true }, HELD), held.sf(from) - held.sf(to));
            close(like(Count::Held { seconds: n.into(), lost: false }, HELD), held.sf(from));
            let several = Poisson::new(f64::from(n) * Measure::NoseUps.chance_at(share)).unwrap();
            let binomial = Binomial::new(share, n.into()).unwrap();
            for k in 0..=n {
                close(like(Count::NoseUps { circles: n, ups: k }, Measure::NoseUps), several.pmf(k.into()));
                close(like(Count::SetUps { asked: n, accepted: k }, Measure::SetUps), binomial.pmf(k.into()));
                let mounts = Count::Mounts { mounts: n, loose: k };
                close(like(mounts, Measure::Mounts { count: 100 }), binomial.pmf(k.into()));
            }
        }
    }
}

/// A try passes its stages with the same chance each; six of them are the far side. The chance is that of getting across once in so
/// many tries: the library's geometric again.
#[test]
fn tries_count_how_far_each_got() {
    for share in SHARES {
        let stage = TRIES.chance_at(share);
        let stages = Geometric::new(1.0 - stage).unwrap();
        close(Geometric::new(stages.sf(6)).unwrap().cdf(3), share);
        for stage in ObstacleStage::ALL {
            let told = Count::Tries { tries: vec![stage] }.ln_likelihood(TRIES, share).exp();
            let passed = stage as u64;
            close(told, if passed < 6 { stages.pmf(passed + 1) } else { stages.sf(6) });
        }
    }
}

#[test]
fn a_stretch_on_less_of_the_bridle_rein_says_nothing_of_more() {
    let measure = Measure::ReinShare { bridle: 50 };
    let stretch = |bridle, soft| Count::ReinShare { bridle, soft, asked: None }.ln_likelihood(measure, 0.8);
    assert_eq!(stretch(20, true), 0.0);
    close(stretch(60, true).exp(), 0.8);
    close(stretch(60, false).exp(), 0.2);
}

fn course(measure: Measure) -> Course {
    let mut step = Step::plain("counted", Gait::Walk, Sides::Both, Standard::default());
    step.measure = measure;
    Course::new(vec![(step, vec![])]).unwrap()
}

fn day(n: u64, counts: &[Count]) -> Day {
    Day::new(date(n), vec![Work { counts: counts.to_vec(), ..Work::reps(0, Side::Both, vec![]) }])
}

fn believe(measure: Measure, days: &[Vec<Count>]) -> Belief {
    let course = course(measure);
    let mut observer = Observer::new(&course, ModelSettings::default());
    for (n, counts) in days.iter().enumerate() {
        observer.watch(&day(n as u64, counts)).unwrap();
    }
    let on = date(days.len() as u64 - 1);
    let belief = observer.belief(0, Side::Both, on).unwrap();
    assert_eq!(belief.days as usize, days.len());
    assert!(belief.share.low <= belief.share.mean && belief.share.mean <= belief.share.high);
    assert_eq!(observer.ready(0, Side::Both, on), Some(belief.ready));
    assert!(
        (observer.ahead(0, Side::Both, on, 0)[0] - belief.ready).abs() < 0.15,
        "the forecast begins where it stands"
    );
    belief
}

/// A good count, a poor one, and the measure they are of.
fn measures() -> [(Measure, Count, Count); 8] {
    let tries = |stage| Count::Tries { tries: vec![stage] };
    let share = |soft| Count::ReinShare { bridle: 60, soft, asked: None };
    [
        (LAPS, Count::Laps { laps: 1, soft: true }, Count::Laps { laps: 6, soft: true }),
        (Measure::NoseUps, Count::NoseUps { circles: 2, ups: 0 }, Count::NoseUps { circles: 2, ups: 3 }),
        (Measure::SetUps, Count::SetUps { asked: 3, accepted: 3 }, Count::SetUps { asked: 3, accepted: 1 }),
        (TRIES, tries(ObstacleStage::Crosses), tries(ObstacleStage::OneFoot)),
        (Measure::ReinShare { bridle: 50 }, share(true), share(false)),
        (Measure::Mounts { count: 30 }, Count::Mounts { mounts: 9, loose: 9 }, Count::Mounts { mounts: 9, loose: 3 }),
        (HELD, Count::Held { seconds: 14, lost: false }, Count::Held { seconds: 3, lost: true }),
        (STEPS, Count::Steps { steps: 12, broke: false }, Count::Steps { steps: 2, broke: true }),
    ]
}

#[test]
fn good_days_own_a_counted_rung_and_poor_ones_do_not() {
    for (measure, good, poor) in measures() {
        let days = |count: &Count, n: usize| vec![vec![count.clone(); 4]; n];
        let (owned, not) = (believe(measure, &days(&good, 8)), believe(measure, &days(&poor, 8)));
        assert!(owned.ready > 0.85, "{measure:?} {owned:?}");
        assert!(not.ready < 0.02 && not.under > 0.9, "{measure:?} {not:?}");
        let mixed = believe(measure, &[days(&poor, 3), days(&good, 3)].concat());
        assert!(not.share.mean < mixed.share.mean && mixed.share.mean < owned.share.mean, "{measure:?} {mixed:?}");
        // Ahead of a horse that is learning there is more than where it stands.
        let course = course(measure);
        let mut observer = Observer::new(&course, ModelSettings::default());
        days(&poor, 2).iter().enumerate().for_each(|(n, d)| observer.watch(&day(n as u64, d)).unwrap());
        let ahead = observer.ahead(0, Side::Both, date(2), 40);
        assert!(ahead[40] > ahead[0], "{measure:?} {ahead:?}");
    }
}

#[test]
fn mounts_need_their_number() {
    let mounts = |n| vec![Count::Mounts { mounts: n, loose: n }];
    let measure = Measure::Mounts { count: 100 };
    assert_eq!(believe(measure, &[mounts(20), mounts(20)]).ready, 0.0, "forty mounts are not a hundred");
    let course = course(measure);
    let mut observer = Observer::new(&course, ModelSettings::default());
    for n in 0..2 {
        observer.watch(&day(n, &mounts(20))).unwrap();
    }
    assert_eq!(observer.mounts(0, Side::Both), Some(40));
    let ahead = observer.ahead(0, Side::Both, date(2), 4);
    assert_eq!(ahead[2], 0.0, "twenty a day are eighty by then");
    assert!(ahead[3] > 0.5, "and a hundred a day later");
}

#[test]
fn what_was_let_go_of_early_is_neither_met_nor_missed() {
    let held = |seconds, lost| Count::Held { seconds, lost }.tally(HELD);
    assert_eq!((held(4, false).reps, held(4, true).reps, held(10, true).met), (0, 1, 1));
    let early = believe(HELD, &vec![vec![Count::Held { seconds: 4, lost: false }; 5]; 4]);
    let lost = believe(HELD, &vec![vec![Count::Held { seconds: 4, lost: true }; 5]; 4]);
    assert!(early.share.mean > lost.share.mean + 0.3, "{early:?} {lost:?}");
    assert_eq!(early.recent.reps, 0);
}

#[test]
fn a_count_that_contradicts_itself_or_its_rung_is_refused() {
    let over = Count::SetUps { asked: 2, accepted: 3 };
    assert_eq!(over.clone().checked(Measure::SetUps), Err(CountError::PartOverWhole));
    assert_eq!(over.checked(Measure::NoseUps), Err(CountError::OtherMeasure(Measure::NoseUps)));
    assert_eq!(Count::Laps { laps: 0, soft: true }.checked(LAPS), Err(CountError::PartOverWhole));
    assert_eq!(Count::Held { seconds: 3601, lost: true }.checked(HELD), Err(CountError::TooMuch));
    assert_eq!(Count::Steps { steps: 0, broke: false }.checked(STEPS), Err(CountError::PartOverWhole));
    assert!(Count::Steps { steps: 0, broke: true }.checked(STEPS).is_ok(), "the first step went wrong");
    assert!(Count::Tries { tries: vec![ObstacleStage::Looks] }.checked(TRIES).is_ok());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    /// A likelihood is a chance, whatever was counted, and a count that met its standard speaks for more of a share than one that
    /// did not.
    #[test]
    fn likelihoods_are_chances(n in 0..8_usize, share in 0.001..0.999_f64, higher in 0.0..0.999_f64) {
        let (measure, good, poor) = measures()[n].clone();
        let ln = |count: &Count, share: f64| count.ln_likelihood(measure, share);
        for count in [&good, &poor] {
            prop_assert!(ln(count, share) <= 1e-9 && ln(count, share).is_finite(), "{count:?} at {share}");
        }
        let higher = share + (0.999 - share) * higher;
        prop_assert!(ln(&good, higher) - ln(&good, share) >= ln(&poor, higher) - ln(&poor, share) - 1e-9);
    }
}
