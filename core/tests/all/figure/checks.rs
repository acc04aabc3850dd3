//! Time, strides, stops and obstacles, by hand and by the published figures.

use super::figure;
use cavesson_core::{
    figure::{
        AgainstRule, FigureGait, FigureHorse, ForHorse, GaitMeasures, between, obstacles, ride, stops, tightest,
        totals, turned,
    },
    pattern::FOOT,
};

/// In feet: 6, 9, 15, 28, 3 and 2 ft/s with strides of 4, 6.4, 7, 14, 3 and 2.5 ft.
fn horse() -> FigureHorse {
    let gaits =
        [(6.0, 4.0, 5.0), (9.0, 6.4, 8.0), (15.0, 7.0, 20.0), (28.0, 14.0, 45.0), (3.0, 3.0, 0.0), (2.0, 2.5, 0.0)];
    let gaits = gaits.map(|(speed, stride, least)| GaitMeasures {
        speed: speed * FOOT,
        stride: stride * FOOT,
        least_radius: least * FOOT,
    });
    FigureHorse { gaits: FigureGait::ALL.into_iter().zip(gaits).collect(), turn_rate: 180.0, speed_up: 8.0 * FOOT }
}

#[test]
fn time_and_strides_are_by_gait() {
    let figure = figure(
        "walk\nline 60\nlope left\nline 70\nstop\nwait 4\nrollback left leave jog\nline 9\nstop\nback 6\nbackthrough ell left 3 3 wide 3",
    );
    let ridden = ride(&figure).unwrap();
    let sums = totals(&ridden, &horse());
    let of = |gait| (sums[&gait].length / FOOT, sums[&gait].seconds, sums[&gait].strides);
    let near = |got: (f64, f64, f64), want: (f64, f64, f64)| {
        assert!(
            [got.0 - want.0, got.1 - want.1, got.2 - want.2].iter().all(|off| off.abs() < 1e-9),
            "{got:?} {want:?}"
        );
    };
    near(of(FigureGait::Walk), (60.0, 10.0, 15.0));
    near(of(FigureGait::Lope), (70.0, 70.0 / 15.0, 10.0));
    near(of(FigureGait::Back), (12.0, 4.0, 4.0));
    // The wait, half a turn at 180 degrees a second, and the corner of the back-through.
    near(of(FigureGait::Stand), (0.0, 4.0 + 1.0 + 0.5, 0.0));
    let (_, in_place) = turned(&ridden);
    assert_eq!((in_place.left, in_place.right), (180.0, 90.0));
}

/// v² = u² + 2·8·straight: 28 ft/s takes 49 ft from a stand, and 34.9 ft out of a circle at 15 ft/s.
#[test]
fn a_stop_says_what_run_up_it_needs() {
    let cases = [
        ("run left\nline 36\nstop", 36.0, 0.0, 24.0, 49.0),
        ("run left\nline 60\nstop", 60.0, 0.0, 28.0, 49.0),
        ("lope left\ncircle left 25\nrun left\nline 10\nstop", 10.0, 15.0, (225.0_f64 + 160.0).sqrt(), 34.9375),
        (
            "lope left\ncircle left 25\nlope left\nline 9\nrun left\nline 9\nrollback left",
            18.0,
            15.0,
            (225.0_f64 + 288.0).sqrt(),
            34.9375,
        ),
        ("run left\narc left 45 90\nlope left\nline 5\nstop", 5.0, 28.0, 15.0, 0.0),
        ("lope left\nline 5\nstop\nback 4\nrun left\nline 4\nstop", 4.0, 0.0, 8.0, 49.0),
        ("rollback left\nline 9\nstop", 9.0, 0.0, 12.0, 14.0625),
    ];
    for (text, straight, from, speed, needs) in cases {
        let figure = figure(text);
        let ridden = ride(&figure).unwrap();
        let stop = *stops(&ridden, &horse()).last().unwrap();
        let got = [stop.straight, stop.from, stop.speed, stop.needs].map(|metres| metres / FOOT);
        let off = got.iter().zip([straight, from, speed, needs]).map(|(a, b)| (a - b).abs()).fold(0.0, f64::max);
        assert!(off < 1e-9, "{text}: {got:?}");
    }
    let figure = figure("jog\nline 20\nstop");
    assert!(stops(&ride(&figure).unwrap(), &horse()).is_empty(), "only out of the lope and the run");
}

/// Walk-overs 20 to 24 in, jog-overs 3 to 3½ ft, lope-overs 6 to 7 ft; a bridge 36 in wide at least, a back-through 28 in: trail
/// classes' published figures (common practice).
#[test]
fn obstacles_are_held_against_the_published_figures_and_the_horse() {
    let cases = [
        ("walk\npoles 4 spacing 20 in", AgainstRule::Ok, Some(ForHorse::Shorten)),
        ("walk\npoles 4 spacing 24 in", AgainstRule::Ok, Some(ForHorse::Fits)),
        ("walk\npoles 4 spacing 25 in", AgainstRule::Over, Some(ForHorse::Fits)),
        ("walk\npoles 4 spacing 19.9 in", AgainstRule::Under, Some(ForHorse::Shorten)),
        ("jog\npoles 4 spacing 3.6", AgainstRule::Over, Some(ForHorse::Reach)),
        ("lope left\npoles 4 spacing 7", AgainstRule::Ok, Some(ForHorse::Fits)),
        ("lope left\npoles 4 spacing 5.5", AgainstRule::Under, Some(ForHorse::Shorten)),
        ("walk\nbridge 8 wide 35 in", AgainstRule::Under, None),
        ("walk\nbridge 8 wide 36 in", AgainstRule::Ok, None),
        ("backthrough straight 8 wide 27 in", AgainstRule::Under, None),
    ];
    for (text, rule, asks) in cases {
        let figure = figure(text);
        let found = obstacles(&ride(&figure).unwrap(), &horse());
        assert_eq!((found[0].rule, found[0].own.map(|(_, asks)| asks)), (rule, asks), "{text}");
    }
}

#[test]
fn strides_between_obstacles_are_by_the_gait_of_each_piece() {
    let figure = figure("walk\npoles 4 spacing 2\nline 10\njog\nline 16\nstop\ngate left\nsidepass left 4");
    let ridden = ride(&figure).unwrap();
    let found = between(&ridden, &horse());
    assert_eq!(found.iter().map(|of| (of.from, of.to)).collect::<Vec<_>>(), [(1, 6), (6, 7)]);
    assert!((found[0].length / FOOT - 26.0).abs() < 1e-9);
    assert!((found[0].strides - (10.0 / 4.0 + 16.0 / 6.4)).abs() < 1e-9);
    assert_eq!(found[1].length, 0.0);
}

#[test]
fn tight_curves_are_told_by_gait_and_gates_are_none() {
    let figure = figure("jog\ncircle left 8\ncircle left 7.5\nlope left\ncircle left 25\nstop\ngate left");
    let ridden = ride(&figure).unwrap();
    let told: Vec<_> = (tightest(&ridden, &horse()).into_iter())
        .map(|of| (of.gait, (of.radius / FOOT * 10.0).round(), of.under))
        .collect();
    assert_eq!(told, [(FigureGait::Jog, 75.0, vec![2]), (FigureGait::Lope, 250.0, vec![])]);
}
