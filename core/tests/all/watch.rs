//! The watch against published tables, and what it is for.

use cavesson_core::advice::{CusumSettings, CusumState};
use rand::SeedableRng;
use rand_chacha::ChaCha8Rng;
use rand_distr::{Distribution, StandardNormal};

/// Average run length of the one-sided tabular CUSUM by the Markov chain of Brook and Evans (1972): the sum's range is cut into
/// cells, and the expected time to leave it is solved for.
fn run_length(watch: CusumSettings, shift: f64) -> f64 {
    const CELLS: usize = 240;
    let width = watch.h / (CELLS as f64 - 0.5);
    let below = |x: f64| 0.5 * libm::erfc(-x / std::f64::consts::SQRT_2);
    // From cell i to cell j: the sum moves by −z − k, where z has mean −shift.
    let step = |i: usize, j: usize| {
        let from = i as f64 * width;
        let edge = |e: f64| below(e - from + watch.k - shift);
        if j == 0 { edge(0.5 * width) } else { edge((j as f64 + 0.5) * width) - edge((j as f64 - 0.5) * width) }
    };
    let mut rows: Vec<Vec<f64>> = (0..CELLS)
        .map(|i| {
            let mut row: Vec<f64> = (0..CELLS).map(|j| f64::from(u8::from(i == j)) - step(i, j)).collect();
            row.push(1.0);
            row
        })
        .collect();
    for i in 0..CELLS {
        let pivot = rows[i][i];
        rows[i].iter_mut().for_each(|v| *v /= pivot);
        for k in 0..CELLS {
            if k != i {
                let factor = rows[k][i];
                let own = rows[i].clone();
                rows[k].iter_mut().zip(own).for_each(|(v, o)| *v -= factor * o);
            }
        }
    }
    rows[0][CELLS]
}

/// Two-sided ARL of k = 0.5: h = 4 gives 168 in control and 8.38 at one standard deviation, h = 5 gives 465 and 10.4
/// (Montgomery, Statistical Quality Control; memory). In control, one side alone goes off half as often as two.
#[test]
fn the_false_alarms_are_those_of_the_tables() {
    for (h, two_sided, one_sd) in [(4.0, 168.0, 8.38), (5.0, 465.0, 10.4)] {
        let watch = CusumSettings { k: 0.5, h };
        let (calm, lost) = (run_length(watch, 0.0), run_length(watch, 1.0));
        assert!((calm / 2.0 - two_sided).abs() < 0.015 * two_sided, "h {h}: {calm}");
        assert!((lost - one_sd).abs() < 0.1, "h {h}: {lost}");
    }
    assert_eq!(CusumSettings::default(), CusumSettings { k: 0.5, h: 4.0 });
}

#[test]
fn the_watch_itself_runs_as_long_as_the_chain_says() {
    let mut rng = ChaCha8Rng::seed_from_u64(3);
    let watch = CusumSettings::default();
    let mut length = |shift: f64| {
        let runs = 2_000;
        let total: u32 = (0..runs)
            .map(|_| {
                let mut cusum = CusumState::default();
                (1..)
                    .find(|_| {
                        let z: f64 = rand_distr::Distribution::sample(&rand_distr::StandardNormal, &mut rng);
                        cusum = cusum.updated(watch, z - shift);
                        cusum.alarm(watch).is_some()
                    })
                    .unwrap_or(0)
            })
            .sum();
        f64::from(total) / f64::from(runs)
    };
    let lost = length(1.0);
    assert!((lost - run_length(watch, 1.0)).abs() < 0.5, "{lost}");
    let calm = length(0.0);
    assert!((calm - run_length(watch, 0.0)).abs() < 30.0, "{calm}");
}

#[test]
fn an_excursion_rings_no_more_often_than_walds_bound_allows() {
    // The watch is a chain of Wald's sequential tests (Page 1954; memory): from 0, with steps that lose k on average, it is at h
    // before it is back at 0 with a probability of at most e^(−2kh) (Wald 1945; memory), here e^−4 = 0.0183.
    let watch = CusumSettings::default();
    let mut rng = ChaCha8Rng::seed_from_u64(11);
    let (mut excursions, mut rang) = (0_u32, 0_u32);
    while excursions < 60_000 {
        let mut cusum = CusumState::default();
        loop {
            cusum = cusum.updated(watch, StandardNormal.sample(&mut rng));
            if cusum.alarm(watch).is_some() || cusum.sum() == 0.0 {
                break;
            }
        }
        excursions += 1;
        rang += u32::from(cusum.alarm(watch).is_some());
    }
    let share = f64::from(rang) / f64::from(excursions);
    assert!(share < (-2.0 * watch.k * watch.h).exp(), "{share}");
    assert!(share > 0.0005, "the bound is not met by never ringing: {share}");
}

#[test]
fn it_tells_since_when_and_quiets_down_again() {
    let watch = CusumSettings::default();
    let mut cusum = CusumState::default();
    for z in [0.3, 1.0, -0.2] {
        cusum = cusum.updated(watch, z);
    }
    assert_eq!(cusum.sum(), 0.0);
    cusum = cusum.updated(watch, -3.0).updated(watch, -3.0);
    assert_eq!(cusum.alarm(watch), Some(2));
    for _ in 0..6 {
        cusum = cusum.updated(watch, 0.5);
    }
    assert_eq!(cusum.alarm(watch), None);
}
