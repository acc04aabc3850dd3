//! Printed and read again a figure is the same, and in a mirror it is ridden the other way round.

use std::fmt::Write as _;

use super::{figure, places};
use cavesson_core::{
    figure::{Figure, Places, ride},
    pattern::{Hand, Point},
};
use proptest::prelude::*;

#[test]
fn printing_keeps_what_was_meant() {
    let typed = "\n\n# top\r\n\n\nSTART 0 2.50m Heading 090\nmark  Left -0 40 FT\nJog   #trot \nREPEAT 02\n\tline to Left past 12.0in\n#\n\n\nEnd#done\nbackthrough ELL right 8ft 6.50 wide 30in\n\n";
    // A mark may be called as a hand is; in the mirror it keeps its name.
    let figure = figure(typed);
    let printed = "# top\n\nstart 0 2.5 m heading 90 deg\nmark Left 0 40\njog  # trot\nrepeat 2\n  line to Left past 12 in\n  #\n\nend  # done\nbackthrough ell right 8 6.5 wide 30 in\n";
    assert_eq!(figure.text(), printed);
    let mirrored = printed.replace("90 deg", "270 deg").replace("ell right", "ell left");
    assert_eq!(figure.mirrored(), mirrored);
}

/// Numbers as people type them.
fn number(least: u32, most: u32) -> impl Strategy<Value = String> {
    (least..most, 0..10_000_u32, 0..5_usize).prop_map(|(whole, part, digits)| match digits {
        0 => whole.to_string(),
        digits => format!("{whole}.{}", &format!("{part:04}")[..digits]),
    })
}

fn length() -> impl Strategy<Value = String> {
    let unit = prop_oneof![Just(""), Just("ft"), Just(" in"), Just(" yd"), Just("m")];
    (number(1, 40), unit).prop_map(|(number, unit)| format!("{number}{unit}"))
}

fn step() -> impl Strategy<Value = String> {
    let hand = || prop_oneof![Just("left"), Just("RIGHT")];
    let leads = || prop_oneof![Just(""), Just(" change flying"), Just(" change simple"), Just(" counter")];
    prop_oneof![
        prop_oneof![Just("walk"), Just("jog"), Just("Lope left"), Just("lope right"), Just("run left")]
            .prop_map(str::to_owned),
        length().prop_map(|d| format!("line {d}")),
        (length(), prop_oneof![Just("short"), Just("past")]).prop_map(|(d, how)| format!("line to drum {how} {d}")),
        (hand(), length(), 1..4_u32).prop_map(|(h, r, n)| format!("circle {h} {r} times {n}")),
        (hand(), length(), number(1, 400)).prop_map(|(h, r, d)| format!("arc {h} {r} {d} deg")),
        (hand(), length()).prop_map(|(h, r)| format!("arc {h} {r} toward b")),
        (hand(), length(), leads()).prop_map(|(h, r, leads)| format!("eight {h} {r}{leads}")),
        (hand(), length(), 1..5_u32, length(), leads())
            .prop_map(|(h, r, n, d, leads)| format!("serpentine {h} {r} loops {n} straight {d}{leads}")),
        Just("stop".to_owned()),
        length().prop_map(|d| format!("back {d}")),
        (hand(), length()).prop_map(|(h, d)| format!("sidepass {h} {d}")),
        (hand(), prop_oneof![Just(""), Just(" leave walk"), Just(" leave lope left")])
            .prop_map(|(h, l)| format!("rollback {h}{l}")),
        (hand(), 1..9_u32).prop_map(|(h, n)| format!("turnaround {h} {}", f64::from(n) / 4.0)),
        (hand(), number(1, 359)).prop_map(|(h, d)| format!("pivot {h} {d}")),
        Just("change flying".to_owned()),
        length().prop_map(|d| format!("change simple {d}")),
        (1..9_u32, length()).prop_map(|(n, d)| format!("poles {n} spacing {d}")),
        hand().prop_map(|h| format!("gate {h}")),
        (length(), length()).prop_map(|(d, w)| format!("bridge {d} wide {w} drop")),
        (hand(), length(), length()).prop_map(|(h, a, b)| format!("backthrough ell {h} {a} {b} wide 3")),
        number(1, 60).prop_map(|s| format!("wait {s}s")),
    ]
}

fn text() -> impl Strategy<Value = String> {
    let line = (
        step(),
        prop_oneof![4 => Just(""), 1 => Just("  #  a word ")],
        prop_oneof![5 => Just("\n"), 1 => Just("\n\n\n")],
    );
    let blocks = prop::collection::vec((prop::collection::vec(line, 1..4), 1..4_u32), 1..5);
    (blocks, number(0, 359)).prop_map(|(blocks, heading)| {
        let mut text = format!("start 3 -2.5 yd heading {heading}\nmark b 40 70 ft\n");
        for (lines, times) in blocks {
            let _ = writeln!(text, "repeat {times}");
            for (step, comment, ends) in lines {
                let _ = write!(text, "\t{step}{comment}{ends}");
            }
            text.push_str("end\n");
        }
        text
    })
}

fn ground() -> Places {
    places(&[("drum", -15.0, 45.0)])
}

fn in_a_mirror(p: Point) -> Point {
    Point::new(-p.x, p.y)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    #[test]
    fn a_printed_figure_is_the_same_figure(typed in text()) {
        let figure = Figure::read(&typed, &ground()).unwrap();
        let again = Figure::read(&figure.text(), &ground()).unwrap();
        prop_assert_eq!(again.text(), figure.text());
        let other = ground().into_iter().map(|(name, at)| (name, in_a_mirror(at))).collect();
        let mirrored = Figure::read(&figure.mirrored(), &other).unwrap();
        prop_assert_eq!(mirrored.mirrored(), figure.text());
        // What can be ridden, and what not, is the same in all three.
        match (ride(&figure), ride(&again), ride(&mirrored)) {
            (Ok(first), Ok(again), Ok(mirrored)) => {
                prop_assert_eq!(first.path.len(), again.path.len());
                for ((a, b), m) in first.steps.iter().zip(&again.steps).zip(&mirrored.steps) {
                    prop_assert!(a.after.at == b.after.at && a.after.heading == b.after.heading);
                    prop_assert!(in_a_mirror(a.after.at).distance(m.after.at) < 1e-6);
                    prop_assert_eq!(a.after.lead.map(Hand::other), m.after.lead);
                }
            }
            (Err(first), Err(again), Err(mirrored)) => {
                prop_assert_eq!(first.len(), again.len());
                prop_assert_eq!(first.len(), mirrored.len());
            }
            _ => prop_assert!(false, "one of them cannot be ridden"),
        }
    }
}
