//! Statics another way: virtual work, moments about other points, and the root finder of a general-purpose library.

use cavesson_core::{
    pattern::Point,
    tack::{Chin, Headstall, Held, Hung, INCH, LeverageBit, chin_from_angle},
};
use proptest::prelude::*;
use roots::{SimpleConvergency, find_root_brent};

/// A bit with the direction of its rein.
fn any_bit() -> impl Strategy<Value = (Hung, f64)> {
    let bit = (0.5..6.0, 0.5..12.0, -45.0..60.0);
    let rest = (0.5..6.0, -3.0..3.0, 6.0..40.0, -2.3..1.0, 0.0..4.0, -89.0..89.0);
    (bit, rest).prop_map(|((purchase, shank, sweep), (behind, below, length, give, slack, apart))| {
        let pull = f64::to_radians(sweep + apart);
        let hung = Hung::new(
            LeverageBit { purchase: purchase * INCH, shank: shank * INCH, sweep: f64::to_radians(sweep) },
            Chin { behind: behind * INCH, below: below * INCH },
            Headstall { length: length * INCH, give: 10f64.powf(give) * INCH },
            slack * INCH,
            pull,
        );
        (hung.unwrap(), pull)
    })
}

fn chin(hung: &Hung) -> Point {
    Point::new(hung.chin().behind, -hung.chin().below)
}

/// How fast something changes with the turn.
fn rate(of: impl Fn(f64) -> f64, turn: f64) -> f64 {
    let step = 1e-6;
    (of(turn + step) - of(turn - step)) / (2.0 * step)
}

/// What the reins do, less what strap and headstall take, for each radian of turn.
fn work(hung: &Hung, pull: f64, held: &Held, reins: f64) -> [f64; 3] {
    let by_reins = rate(|t| Point::polar(pull, reins).dot(hung.rein_ring(t)), held.turn);
    let by_headstall = held.poll * rate(|t| hung.ring(t).distance(hung.poll()), held.turn);
    let by_strap = held.curb * rate(|t| hung.run(t), held.turn);
    [by_reins, by_headstall, by_strap]
}

/// The sum of moments about a point: reins, headstall, strap, and the mouth against the mouthpiece.
fn moment(hung: &Hung, pull: f64, held: &Held, reins: f64, about: Point) -> (f64, f64) {
    let ring = hung.ring(held.turn);
    let along = |to: Point| (to - ring) * (1.0 / (to - ring).length());
    let forces = [
        (hung.rein_ring(held.turn), Point::polar(pull, reins)),
        (ring, along(hung.poll()) * held.poll),
        (ring, along(chin(hung)) * held.curb),
        (Point::default(), Point::new(-held.mouth.back, -held.mouth.up)),
    ];
    let each = forces.map(|(at, force)| (at - about).cross(force));
    (each.iter().sum(), each.iter().map(|m| m.abs()).sum())
}

proptest! {
    /// A small turn from balance does no work: what the reins give, strap and headstall take.
    #[test]
    fn a_small_turn_does_no_work((hung, pull) in any_bit(), weight in 0.01..250.0) {
        let held = hung.held(weight);
        let [reins, headstall, strap] = work(&hung, pull, &held, 2.0 * weight);
        // Where the strap is all but in line with the mouthpiece its rate is lost in the step of the derivative.
        prop_assume!(hung.strap_arm(held.turn) > 1e-4);
        let size = reins.abs() + headstall.abs() + strap.abs();
        prop_assert!((reins - headstall - strap).abs() <= 1e-5 * size + 1e-7, "{} {} {} {:?}", reins, headstall, strap, held);
    }

    /// Moments about poll, chin and the rein's ring come to nothing too, with the mouth's force at the mouthpiece.
    #[test]
    fn moments_balance_about_any_point((hung, pull) in any_bit(), weight in 0.01..250.0) {
        let held = hung.held(weight);
        for about in [hung.poll(), chin(&hung), hung.rein_ring(held.turn), Point::new(1.0, -2.0)] {
            let (sum, size) = moment(&hung, pull, &held, 2.0 * weight, about);
            prop_assert!(sum.abs() <= 1e-8 * size + 1e-9, "{} of {}", sum, size);
        }
    }

    /// Up to where a bit on a slack strap stops, the reins turn it on; on a tight one they never stop before.
    #[test]
    fn it_stops_at_the_first_balance((hung, pull) in any_bit(), weight in 0.01..250.0) {
        let held = hung.held(weight);
        prop_assert!(held.turn >= 0.0 && held.turn <= hung.tight().unwrap_or(hung.over()));
        for n in 1..100 {
            let turn = held.turn * f64::from(n) / 100.0;
            let pulled = |t: f64| Point::polar(pull, 2.0 * weight).dot(hung.rein_ring(t));
            let stretched = |t: f64| hung.ring(t).distance(hung.poll());
            let left = rate(pulled, turn) - hung.headstall_pull(turn) * rate(stretched, turn);
            prop_assert!(left > -1e-6 * weight, "{} left at {} of {}", left, turn, held.turn);
        }
    }

    /// The angle by the law of cosines is the root that Brent's method finds of the strap's run.
    #[test]
    fn the_strap_is_tight_where_a_root_finder_says((hung, _) in any_bit()) {
        let want = hung.run(0.0) + hung.slack() / 2.0;
        let in_line = std::f64::consts::FRAC_PI_2 + chin(&hung).angle();
        let end = hung.over().min(in_line);
        prop_assume!((hung.run(end) - want).abs() > 1e-8 && hung.slack() > 1e-6);
        match hung.tight() {
            None => prop_assert!(hung.run(end) < want),
            Some(tight) => {
                let mut to = SimpleConvergency { eps: 1e-12, max_iter: 200 };
                let found = find_root_brent(0.0, end, |t| hung.run(t) - want, &mut to).unwrap();
                // Flat near the end, where a run hardly changes with the turn.
                prop_assert!((hung.run(found) - hung.run(tight)).abs() < 1e-10 && (found - tight).abs() < 1e-4, "{} {}", found, tight);
            }
        }
    }

    /// More slack is never tight sooner.
    #[test]
    fn a_longer_strap_is_later((hung, _) in any_bit(), more in 0.0..1.0) {
        let later = hung.turned_by(more * INCH).tight.unwrap_or(f64::INFINITY);
        prop_assert!(later >= hung.tight().unwrap_or(f64::INFINITY) - 1e-12);
        prop_assert!(hung.slack() <= hung.most_slack() || hung.tight().is_none());
    }

    /// The chin that an angle tells brings the strap tight at that angle; one that was there is found, or a lower one.
    #[test]
    fn a_chin_is_found_again((hung, _) in any_bit()) {
        let Some(tight) = hung.tight().filter(|t| *t > 0.01) else { return Ok(()) };
        prop_assume!(hung.strap_arm(tight) > 1e-4);
        let found = chin_from_angle(&hung, tight, 3.0 * INCH).unwrap();
        prop_assert!(found.below >= hung.chin().below - 1e-6, "{:?} {:?}", found, hung.chin());
        let again = hung.with_chin(found).tight().unwrap();
        prop_assert!((again - tight).abs() < 1e-5, "{} {}", again, tight);
    }
}
