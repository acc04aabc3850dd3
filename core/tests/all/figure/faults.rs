//! What is wrong with a text: where it is told, and in which words.

use super::{places, told};
use cavesson_core::figure::{Figure, ride};

fn faults_of(text: &str) -> Vec<String> {
    let ground = places(&[("drum", 0.0, 50.0), ("post", 8.0, 5.0)]);
    match Figure::read(text, &ground) {
        Err(faults) => told(&faults),
        Ok(figure) => ride(&figure).err().map(|faults| told(&faults)).unwrap_or_default(),
    }
}

#[test]
fn a_line_says_all_that_could_stand_where_it_goes_wrong() {
    let cases = [
        ("jig", "1:1 expected step"),
        ("40", "1:1 expected step"),
        ("lope", "1:5 expected hand"),
        ("lope  # left", "1:5 expected hand"),
        ("line", "1:5 expected length or to"),
        ("line to", "1:8 expected name"),
        ("line to drum short", "1:19 expected length"),
        ("line to drum by", "1:14 expected short or past or end of line"),
        ("line 5 5", "1:8 expected unit or end of line"),
        ("line 5 ft 5", "1:11 expected end of line"),
        ("circle left 20 twice", "1:16 expected unit or times or counter or end of line"),
        ("circle left 20 times two", "1:22 expected count"),
        ("arc left 20", "1:12 expected unit or degrees or toward"),
        ("arc left 20 toward drum now", "1:25 expected counter or end of line"),
        ("eight left 20 change", "1:21 expected simple or flying"),
        ("eight left 20 change flying counter", "1:29 expected end of line"),
        ("serpentine left 12 loops 3 by", "1:28 expected straight or change or counter or end of line"),
        ("rollback left leave fast", "1:21 expected gait"),
        ("rollback left leave lope", "1:25 expected hand"),
        ("turnaround left", "1:16 expected turns"),
        ("pivot left 90 turns", "1:15 expected deg or end of line"),
        ("change slow", "1:8 expected simple or flying"),
        ("change simple now", "1:15 expected length or end of line"),
        ("change flying 10", "1:15 expected end of line"),
        ("poles 4 22 in", "1:9 expected spacing"),
        ("gate left wide", "1:11 expected length or end of line"),
        ("bridge 10 broad 4", "1:11 expected unit or wide"),
        ("bridge 10 wide 4 drops", "1:18 expected unit or drop or end of line"),
        ("backthrough 8 wide 3", "1:13 expected straight or ell"),
        ("backthrough ell left 8 wide 3", "1:24 expected unit or length"),
        ("wait 5 m", "1:8 expected s or end of line"),
        ("start drum heading 0\njog", "1:7 expected coordinate or at"),
        ("start 0 0 0\njog", "1:11 expected unit or heading"),
        ("mark 5 5\njog", "1:6 expected name"),
        ("repeat\njog\nend", "1:7 expected count"),
        ("jog %", "1:5 expected end of line"),
        ("línea 5", "1:1 expected step"),
    ];
    for (text, says) in cases {
        let told = faults_of(text);
        assert!(told.iter().any(|fault| fault == says), "{text}: {told:?}, should say {says}");
    }
}

#[test]
fn ranges_are_told_at_their_number() {
    let at = |text: &str| faults_of(text);
    for text in [
        "jog\nline 0",
        "jog\nline -5",
        "jog\nline 2001",
        "jog\nline 700 m",
        "jog\nline 1234567",
        "jog\nline 1.23456",
        "jog\nwait 0",
        "jog\nwait 3601",
        "jog\nback 3000 ft now",
    ] {
        assert_eq!(at(text), ["2:6 range"], "{text}");
    }
    assert_eq!(
        at("turnaround left 0.3\nturnaround left 25.25\npivot left 361 deg\nrepeat 2.0\njog\nend"),
        ["1:17 range", "2:17 range", "3:12 range", "4:8 range"]
    );
    assert_eq!(at("start 0 5000.1 heading 0\nmark a -5001 0\njog"), ["1:9 range", "2:8 range"]);
    assert_eq!(at("start 0 0 heading 360\njog"), ["1:19 range"]);
    assert_eq!(at("jog\nline 2000\nline 666.6667 yd\nline 609.6 m"), ["3:6 range"]);
}

#[test]
fn blocks_and_names_are_told_where_they_go_wrong() {
    let cases: [(&str, &[&str]); 9] = [
        ("jog\nstart 0 0 heading 0", &["2:1 order"]),
        ("start 0 0 heading 0\nstart 0 0 heading 0\njog", &["2:1 twice"]),
        ("mark drum 0 0\nmark a 0 0\nmark a 1 1\njog", &["1:6 twice", "3:6 twice"]),
        ("jog\nline to Drum\narc left 5 toward nowhere", &["2:9 name", "3:19 name"]),
        ("jog\nend", &["2:1 end"]),
        ("repeat 2\n# nothing\nend\njog", &["1:1 hollow"]),
        ("repeat 2\n  repeat 3\n  end\nend", &["2:3 hollow"]),
        ("repeat 2\n  jog", &["1:1 open"]),
        // A line that is wrong still opens its block, defines its mark, and is a step; an unknown word only fills.
        (
            "mark a 0\nrepeat x\n  trott\nend\njog\nline to a",
            &["1:9 expected unit or coordinate", "2:8 expected count", "3:3 expected step"],
        ),
    ];
    for (text, says) in cases {
        assert_eq!(faults_of(text), says, "{text}");
    }
    let deep = format!("{}jog\n{}", "repeat 2\n".repeat(9), "end\n".repeat(9));
    assert_eq!(faults_of(&deep), ["9:1 deep"]);
    assert_eq!(faults_of(""), ["1:1 empty"]);
    assert_eq!(faults_of("start 0 0 heading 0\n# only begun\n"), ["1:1 empty"]);
}

#[test]
fn a_ride_says_what_cannot_be_ridden_once_a_line() {
    let cases: [(&str, &[&str]); 8] = [
        ("line 20", &["1:1 gait"]),
        ("jog\nback 5\nback 5", &["2:1 gait"]),
        ("jog\nchange flying\ncircle left 20 counter", &["2:1 gait"]),
        ("jog\nbridge 8 wide 4\npoles 3 spacing 2\nrun left\nline 5\npoles 3 spacing 6", &["2:1 gait", "6:1 gait"]),
        ("jog\nrepeat 3\n  line to drum short 10\n  line 30\nend", &["3:11 behind"]),
        ("jog\narc right 20 toward post", &["2:21 inside"]),
        // Ridden on as from the walk: the next lines are judged as if nothing had happened.
        ("stop\nwait 2\nwait 2", &["1:1 gait"]),
        ("walk\nrepeat 99\n  repeat 99\n    eight left 10 times 2\n    line 5\n  end\nend", &["5:5 long"]),
    ];
    for (text, says) in cases {
        assert_eq!(faults_of(text), says, "{text}");
    }
    // A thousand parts are not too many.
    assert_eq!(
        faults_of("walk\nrepeat 9\n  repeat 37\n    line 1\n    line 1\n    line 1\n  end\nend"),
        Vec::<String>::new()
    );
}
