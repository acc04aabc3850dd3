//! A track laid over the plan: one whose pass is known.

use cavesson_core::pattern::{FOOT, NoTrack, Point, Run, TrackPoint, lay_over, quickest_run};
use rand::SeedableRng;
use rand_distr::{Distribution, Normal};

use super::{runner, standard};

/// What a device would note of a run: ten times a second, in axes of its own, with noise, and a walk to and from it.
fn recorded(run: &Run, noise: f64, turn: f64) -> Vec<TrackPoint> {
    let mut rng = rand_chacha::ChaCha8Rng::seed_from_u64(4);
    let normal = Normal::new(0.0, noise).unwrap();
    let walk = |n: usize| TrackPoint { at: Point::new(0.0, -30.0 + 0.3 * n as f64), t: 0.2 * n as f64 };
    let mut out: Vec<TrackPoint> = (0..100).map(walk).collect();
    let begin = 20.0;
    let mut t = 0.0;
    for p in run.points.iter() {
        if p.t >= t {
            out.push(TrackPoint { at: p.at, t: begin + p.t });
            t += 0.1;
        }
    }
    let end = run.time() + begin;
    out.extend((1..80).map(|n| TrackPoint { at: Point::new(0.3 * f64::from(n), -3.0), t: end + 0.2 * f64::from(n) }));
    out.iter()
        .map(|p| {
            let noisy = p.at + Point::new(normal.sample(&mut rng), normal.sample(&mut rng));
            TrackPoint { at: noisy.turned(turn) + Point::new(400.0, -90.0), t: p.t }
        })
        .collect()
}

#[test]
fn pockets_and_times_are_read_off_it() {
    let mut ridden = standard();
    ridden.barrels[0].pocket.back += 1.5 * FOOT;
    let rode = quickest_run(&ridden, &runner()).unwrap();
    let plan = quickest_run(&standard(), &runner()).unwrap();
    let laid = lay_over(&plan, standard().barrel_radius, &recorded(&rode, 0.0, 2.1)).unwrap();
    assert!(laid.off < 0.4, "{}", laid.off);
    assert!((laid.time - rode.time()).abs() < 1.0, "{} against {}", laid.time, rode.time());
    let feet = |n: usize, spot: usize| laid.pockets[n][spot] / FOOT;
    assert!((feet(0, 1) - 5.5).abs() < 0.7, "a foot and a half wide behind the first: {}", feet(0, 1));
    assert!((feet(1, 1) - 4.0).abs() < 0.7 && (feet(2, 1) - 4.0).abs() < 0.7, "{:?}", laid.pockets);
    assert!(laid.behind.windows(2).all(|w| w[0] < w[1]));
}

#[test]
fn noise_is_told_as_such() {
    let plan = quickest_run(&standard(), &runner()).unwrap();
    let laid = lay_over(&plan, standard().barrel_radius, &recorded(&plan, 0.3, -1.0)).unwrap();
    assert!((0.2..1.2).contains(&laid.off), "{}", laid.off);
}

#[test]
fn what_is_no_pass_is_refused() {
    let plan = quickest_run(&standard(), &runner()).unwrap();
    let of = |points: &[TrackPoint]| lay_over(&plan, 0.3, points).unwrap_err();
    assert!(matches!(of(&[]), NoTrack::TooFew(0)));
    let straight = |metres: f64| -> Vec<TrackPoint> {
        (0..200).map(|n| TrackPoint { at: Point::new(metres * f64::from(n) / 200.0, 0.0), t: f64::from(n) }).collect()
    };
    assert!(matches!(of(&straight(40.0)), NoTrack::TooShort { .. }));
    assert!(matches!(of(&straight(400.0)), NoTrack::Elsewhere { .. }));
    // A device that jumps to the other side of the world and back, and stamps the same second twice.
    let mut jumps = recorded(&plan, 0.0, 0.3);
    jumps.insert(150, TrackPoint { at: Point::new(9e6, 0.0), t: 25.0 });
    jumps.insert(160, jumps[160]);
    assert!(lay_over(&plan, 0.3, &jumps).is_ok());
    let nowhere = TrackPoint { at: Point::new(f64::NAN, 0.0), t: 1.0 };
    assert!(matches!(of(&[nowhere; 50]), NoTrack::TooFew(0)));
}
