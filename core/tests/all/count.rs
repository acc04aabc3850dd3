//! Rungs that are not counted in reps: each likelihood against a slow sum of its own, and the rules about them.

use cavesson_core::{
    belief::{Count, CountError, Day, ModelSettings, Observer, ObstacleStage, Work},
    curriculum::{Course, Gait, Measure, Side, Sides, Step},
    response::Standard,
};

use crate::support::date;

fn course(measure: Measure) -> Course {
    let mut step = Step::plain("counted", Gait::Walk, Sides::Both, Standard::default());
    step.measure = measure;
    Course::new(vec![(step, vec![])]).unwrap()
}

fn day(n: u64, counts: Vec<Count>) -> Day {
    Day::new(date(n), vec![Work { counts, ..Work::reps(0, Side::Both, vec![]) }])
}

fn believe(measure: Measure, days: &[Vec<Count>]) -> (f64, f64) {
    let course = course(measure);
    let mut observer = Observer::new(&course, ModelSettings::default());
    for (n, counts) in days.iter().enumerate() {
        observer.watch(&day(n as u64, counts.clone())).unwrap();
    }
    let belief = observer.belief(0, Side::Both, date(days.len() as u64 - 1)).unwrap();
    assert_eq!(belief.days as usize, days.len());
    assert!(belief.share.low <= belief.share.mean && belief.share.mean <= belief.share.high);
    assert_eq!(observer.ready(0, Side::Both, date(days.len() as u64 - 1)), Some(belief.ready));
    (belief.ready, belief.share.mean)
}

/// Posterior on a fine grid: the Jeffreys prior, the likelihood written out, and the share that follows from the chance.
fn slow(
    prior: impl Fn(f64) -> f64,
    likelihood: impl Fn(f64) -> f64,
    share: impl Fn(f64) -> f64,
    top: f64,
) -> (f64, f64) {
    let (mut total, mut over, mut sum) = (0.0, 0.0, 0.0);
    for i in 0..200_000 {
        let p = (f64::from(i) + 0.5) * top / 200_000.0;
        let w = prior(p) * likelihood(p);
        let s = share(p);
        total += w;
        sum += w * s;
        over += if s >= 0.8 { w } else { 0.0 };
    }
    (over / total, sum / total)
}

fn jeffreys(p: f64) -> f64 {
    (p * (1.0 - p)).powf(-0.5)
}

fn close(told: (f64, f64), slow: (f64, f64)) {
    assert!((told.0 - slow.0).abs() < 0.01 && (told.1 - slow.1).abs() < 0.01, "{told:?} against {slow:?}");
}

/// One count a day and all of one day old at most, so that neither age nor alikeness weighs in more than a hundredth.
#[test]
fn laps_until_soft_are_geometric() {
    let soft = |laps| vec![Count::Laps { laps, soft: true }];
    let told = believe(Measure::Laps { most: 2 }, &[soft(1), soft(1), soft(2)]);
    // The day of two laps has two chances, alike as those of one day are: each counts for 1 / 1.3.
    let w = 1.0 / 1.3;
    let like = |p: f64| p * p * (p * (1.0 - p)).powf(w);
    close(told, slow(jeffreys, like, |p| 1.0 - (1.0 - p).powi(2), 1.0));
    assert!(believe(Measure::Laps { most: 2 }, &[vec![Count::Laps { laps: 8, soft: false }]]).0 < 0.05);
}

#[test]
fn nose_ups_are_poisson_and_none_is_owned() {
    let clean = |circles| vec![Count::NoseUps { circles, ups: 0 }];
    let told = believe(Measure::NoseUps, &[clean(1), clean(1), vec![Count::NoseUps { circles: 1, ups: 1 }]]);
    let like = |l: f64| l.powi(1) * (-l * 3.25).exp();
    close(told, slow(|l| l.powf(-0.5), like, |l| (-l).exp(), 12.0));
    let many: Vec<_> = (0..12).map(|_| clean(4)).collect();
    assert!(believe(Measure::NoseUps, &many).0 > 0.9);
}

#[test]
fn set_ups_are_binomial() {
    let one = |accepted| vec![Count::SetUps { asked: 1, accepted }];
    let told = believe(Measure::SetUps, &[one(1), one(1), one(0), one(1)]);
    close(told, slow(jeffreys, |p| p.powi(3) * (1.0 - p), |p| p, 1.0));
}

/// A try passes its stages with the same chance each; six of them are the far side.
#[test]
fn tries_count_how_far_each_got() {
    let told = believe(
        Measure::Tries { within: 3 },
        &[
            vec![Count::Tries { tries: vec![ObstacleStage::Toward] }],
            vec![Count::Tries { tries: vec![ObstacleStage::Crosses] }],
        ],
    );
    // Two chances on the first day (one passed, one missed), six on the second.
    let (a, b) = (1.0 / 1.3, 1.0 / (1.0 + 0.3 * 5.0));
    let like = |p: f64| (p * (1.0 - p)).powf(a) * p.powf(6.0 * b);
    close(told, slow(jeffreys, like, |p| 1.0 - (1.0 - p.powi(6)).powi(3), 1.0));
    let far = |r: ObstacleStage| believe(Measure::Tries { within: 3 }, &[vec![Count::Tries { tries: vec![r] }]]).0;
    let all = [ObstacleStage::Looks, ObstacleStage::OneFoot, ObstacleStage::FourFeet, ObstacleStage::Crosses];
    assert!(all.windows(2).all(|w| far(w[0]) < far(w[1])), "further is better");
}

#[test]
fn mounts_need_their_number_and_rein_shares_their_share() {
    let mounts = |n| vec![Count::Mounts { mounts: n, loose: n }];
    let measure = Measure::Mounts { count: 100 };
    assert_eq!(believe(measure, &[mounts(20), mounts(20)]).0, 0.0, "forty mounts are not a hundred");
    let many: Vec<_> = (0..8).map(|_| mounts(15)).collect();
    assert!(believe(measure, &many).0 > 0.8);
    let stretch = |bridle| vec![Count::ReinShare { bridle, soft: true, asked: None }];
    let (under, over): (Vec<_>, Vec<_>) = (0..6).map(|_| (stretch(20), stretch(60))).unzip();
    let measure = Measure::ReinShare { bridle: 50 };
    assert!(believe(measure, &over).0 > 2.0 * believe(measure, &under).0, "a stretch under the share says nothing");
}

#[test]
fn a_count_that_contradicts_itself_or_its_rung_is_refused() {
    let over = Count::SetUps { asked: 2, accepted: 3 };
    assert_eq!(over.clone().checked(Measure::SetUps), Err(CountError::PartOverWhole));
    assert_eq!(over.checked(Measure::NoseUps), Err(CountError::OtherMeasure));
    assert_eq!(Count::Laps { laps: 0, soft: true }.checked(Measure::Laps { most: 2 }), Err(CountError::PartOverWhole));
    assert!(Count::Tries { tries: vec![ObstacleStage::Looks] }.checked(Measure::Tries { within: 3 }).is_ok());
}
