//! Worked examples, by hand or by other means than the core's.

use cavesson_core::{
    response::Weight,
    tack::{
        Bosal, Chin, FINGER, HandScale, Headstall, Hung, HungFault, INCH, LeverageBit, NoChin, TakesHold,
        chin_from_angle, snaffle,
    },
};

use super::{common, hung};

fn near(got: f64, want: f64, most: f64) {
    assert!((got - want).abs() <= most, "{got} should be {want}");
}

/// Mouth and strap, newtons, under 2, 5, 15 and 30 N a rein, as the table in the contract of `cavesson bit` has them.
#[test]
fn a_finger_more_of_strap_is_later_and_harder() {
    let fingers = |n: f64| common(n * FINGER / INCH);
    for (hung, tight, table) in [
        (fingers(1.0), 19.3, [(19.0, 19.0), (52.0, 49.0), (159.0, 150.0), (320.0, 301.0)]),
        (fingers(2.0), 46.5, [(14.9, 4.7), (56.0, 52.0), (224.0, 212.0), (477.0, 450.0)]),
    ] {
        near(hung.tight().unwrap().to_degrees(), tight, 0.05);
        for (weight, (mouth, curb)) in [2.0, 5.0, 15.0, 30.0].into_iter().zip(table) {
            let held = hung.held(weight);
            near(held.mouth.size(), mouth, 0.5);
            near(held.curb, curb, 0.5);
        }
    }
    let loose = fingers(2.5);
    assert_eq!((loose.tight(), loose.takes_hold()), (None, TakesHold::Never));
    for (weight, turn) in [2.0, 5.0, 15.0, 30.0].into_iter().zip([49.0, 67.0, 90.0, 101.0]) {
        let held = loose.held(weight);
        near(held.turn.to_degrees(), turn, 0.5);
        assert!(!held.tight && held.curb == 0.0);
    }
}

/// A feather turns a bit on a slack strap and nothing holds it but the headstall.
#[test]
fn under_a_light_hand_the_shank_only_turns() {
    let hung = common(1.5);
    let turns: Vec<f64> = [0.1, 0.5, 1.0, 2.0].iter().map(|w| hung.held(*w).turn).collect();
    assert!(turns.is_sorted() && turns[3] <= hung.tight().unwrap());
    let held = hung.held(0.1);
    assert!(!held.tight && held.curb == 0.0 && held.poll > 0.0);
}

#[test]
fn levers_by_length_are_not_what_the_horse_feels() {
    let lever = common(1.5).lever();
    near(lever.by_length, 5.0 / 1.75, 1e-9);
    assert!(lever.tight.unwrap() > 2.0 * lever.by_length, "{lever:?}");
}

#[test]
fn states_change_where_practice_says() {
    for (degrees, state) in [
        (0.0, TakesHold::Tight),
        (19.99, TakesHold::Tight),
        (20.01, TakesHold::Snug),
        (30.01, TakesHold::Good),
        (49.99, TakesHold::Good),
        (50.01, TakesHold::Long),
        (59.99, TakesHold::Long),
        (60.01, TakesHold::Loose),
    ] {
        assert_eq!(TakesHold::at(Some(f64::to_radians(degrees))), state, "{degrees}");
    }
}

#[test]
fn a_bit_that_cannot_work_is_refused() {
    let make = |purchase: f64, slack: f64, pull: f64| {
        let bit = LeverageBit { purchase, shank: 0.12, sweep: 0.0 };
        Hung::new(bit, Chin { behind: 0.05, below: 0.0 }, Headstall { length: 0.45, give: 0.001 }, slack, pull)
    };
    assert!(make(0.04, 0.0, 0.0).is_ok());
    assert_eq!(make(0.0, 0.0, 0.0), Err(HungFault::Length));
    assert_eq!(make(f64::NAN, 0.0, 0.0), Err(HungFault::Length));
    assert_eq!(make(0.04, -0.001, 0.0), Err(HungFault::Length));
    assert_eq!(make(0.04, 0.0, std::f64::consts::FRAC_PI_2), Err(HungFault::InLine));
    assert_eq!(make(0.04, 0.0, f64::NAN), Err(HungFault::InLine));
}

#[test]
fn a_measured_angle_that_no_chin_gives_is_refused() {
    let hung = common(1.5);
    assert_eq!(chin_from_angle(&hung, 80f64.to_radians(), 3.0 * INCH), Err(NoChin::Nowhere));
    assert_eq!(chin_from_angle(&hung, hung.over(), 3.0 * INCH), Err(NoChin::Over));
    // A strap without slack is tight at rest, and nowhere else first.
    assert_eq!(chin_from_angle(&common(0.0), 0.3, 3.0 * INCH), Err(NoChin::Nowhere));
}

/// A chin at the end of its range is found from an angle that was told to six decimals.
#[test]
fn a_chin_at_the_end_of_its_range_is_found() {
    for (bit, chin, slack, pull) in [
        ([4.838, 0.832, 18.69], [6.0, 3.0], 1.0335, 25.0),
        ([6.0, 0.5, 29.1], [1.12, -3.0], 0.43, 81.0),
        ([4.15, 0.5, -15.1], [3.94, 3.0], 0.307, -23.3),
    ] {
        let hung = hung(bit, chin, slack, pull, 0.05);
        let told = (hung.tight().unwrap().to_degrees() * 1e6).round() / 1e6;
        let found = chin_from_angle(&hung, told.to_radians(), 3.0 * INCH).unwrap();
        near(found.below / INCH, chin[1], 1e-4);
    }
}

/// Of all chins that bring the strap tight there, the lowest: found by trying every hundredth of an inch.
#[test]
fn a_measured_angle_tells_the_lowest_chin() {
    for (slack, degrees) in [(1.25, 45.0), (1.0, 30.0), (0.6, 20.0), (1.5, 60.0), (2.0, 75.0)] {
        let bit = |below: f64| hung([1.5, 7.0, 0.0], [2.0, below], slack, 40.0, 0.05);
        let found = chin_from_angle(&bit(0.0), f64::to_radians(degrees), 3.0 * INCH);
        let tight_at = |n: i32| bit(f64::from(n) / 100.0).tight().map_or(f64::INFINITY, f64::to_degrees) - degrees;
        let crossed =
            (-299..=300).rev().find(|n| tight_at(*n).is_sign_positive() != tight_at(*n - 1).is_sign_positive());
        let crossed = crossed.filter(|n| tight_at(*n).is_finite() && tight_at(*n - 1).is_finite());
        match (found, crossed) {
            (Ok(chin), Some(n)) => near(chin.below / INCH, f64::from(n) / 100.0 - 0.005, 0.0051),
            (Err(NoChin::Nowhere), None) => {}
            other => panic!("{slack} {degrees}: {other:?}"),
        }
    }
}

#[test]
fn a_snaffle_passes_the_hand_on_and_a_bosal_is_a_lever_about_the_nose() {
    let mouth = snaffle(5.0, 30f64.to_radians());
    near(mouth.size(), 10.0, 1e-12);
    near(mouth.up, 5.0, 1e-12);
    // A rein square to the bosal, bearing at its end: all on the jaw, nothing on the nose.
    let square = Bosal { length: 0.2, jaw: 0.2, lean: std::f64::consts::FRAC_PI_2 }.held(5.0);
    near(square.jaw, 10.0, 1e-12);
    near(square.nose, 0.0, 1e-12);
    // A rein along it: all on the nose.
    let along = Bosal { length: 0.2, jaw: 0.1, lean: 0.0 }.held(5.0);
    near(along.nose, 10.0, 1e-12);
    near(along.jaw, 0.0, 1e-12);
}

/// Bounds between neighbours are their geometric means.
#[test]
fn a_weight_is_called_by_the_nearest_word() {
    let scale = HandScale::default();
    let steps: [f64; 7] = [0.1, 0.5, 1.0, 2.0, 5.0, 15.0, 30.0];
    for (n, bound) in steps.windows(2).map(|two| (two[0] * two[1]).sqrt()).enumerate() {
        assert_eq!(scale.nearest(bound - 1e-3), Weight::ALL[n + 1]);
        assert_eq!(scale.nearest(bound + 1e-3), Weight::ALL[n + 2]);
    }
    assert_eq!(scale.nearest(0.0499), Weight::None);
    assert_eq!(scale.nearest(0.05), Weight::Feather);
    assert_eq!(scale.nearest(250.0), Weight::Tug);
    for weight in Weight::ALL {
        assert_eq!(scale.nearest(scale.newtons(weight)), weight);
    }
}
