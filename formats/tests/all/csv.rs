//! Comma-separated values as RFC 4180 has them: quoting, line ends, and what is wrong with a row.

use cavesson_core::{
    curriculum::{Curriculum, Gait, Side},
    response::{ResponseTime, Weight},
};
use cavesson_formats::{
    csv::{read, write},
    shorthand::{Lexicon, ParsedRide, RideFacts, Set, SetResult},
};
use chrono::NaiveDate;
use proptest::prelude::*;

fn lexicon() -> Lexicon<'static> {
    Lexicon::new(Curriculum::standard(), &[], &["Juniper".to_owned(), "Old Copper".to_owned()]).unwrap()
}

#[test]
fn rows_of_a_horse_and_day_are_one_ride() {
    // RFC 4180: CRLF, quoted cells with commas and doubled quotes, columns told by the header in any order.
    let text = "horse,date,rung,side,gave,none,weight,seconds,note\r\n\
                Juniper,2026-03-02,flex,L,6,2,egg,1.5,\"slow, \"\"easy\"\" hands\"\r\n\
                juniper,2026-03-02,S1,right,4,4,orange,,\r\n\
                Old Copper,2026-03-02,walk stop,,5,0,lemon,,\r\n";
    let all = read(text, &lexicon());
    assert!(all.diagnostics.is_empty(), "{:?}", all.diagnostics);
    let rows: Vec<(Option<&str>, usize)> = all.rides.iter().map(|r| (r.horse.as_deref(), r.sets.len())).collect();
    assert_eq!(rows, [(Some("Juniper"), 2), (Some("Old Copper"), 1)]);
    assert_eq!(all.rides[0].note, "slow, 'easy' hands");
    assert_eq!(all.rides[0].sets[0].result, SetResult::Reps { gave: 6, tried: 0, none: 2 });
    assert_eq!((all.rides[1].sets[0].rung.as_str(), all.rides[1].sets[0].side), ("T2", Side::Both));
}

#[test]
fn what_is_wrong_stands_at_its_line() {
    let text = "date,horse,rung,side,gave\n2026-03-02,Juniper,flex,L,6\n2026-13-02,Juniper,flex,L,6\n2026-03-02,Junper,flex,L,6\n\
                2026-03-02,Juniper,flex,L,six\n2026-03-02,Juniper,flex,L\n";
    let all = read(text, &lexicon());
    let lines: Vec<usize> = all.diagnostics.iter().map(|t| t.span.line).collect();
    for line in 2..=5 {
        assert!(lines.contains(&line), "line {line}: {:?}", all.diagnostics);
    }
    assert!(!lines.contains(&1));
    assert!(all.diagnostics.iter().any(|t| t.nearest.as_deref() == Some("Juniper")));
    let heads = read("date,horse,rung,colour\n", &lexicon());
    assert!(heads.diagnostics[0].says.contains("\"colour\" is no column here"));
    assert!(read("", &lexicon()).diagnostics.iter().any(|t| t.says.contains("is missing")));
}

fn any_ride() -> impl Strategy<Value = ParsedRide> {
    let set = (0u8..50, 0u8..9, 1u8..50, prop::bool::ANY, prop::option::of(0u32..9_000)).prop_map(
        |(gave, tried, none, left, millis)| Set {
            rung: "S4".into(),
            gait: Gait::Walk,
            side: if left { Side::Left } else { Side::Right },
            result: SetResult::Reps { gave, tried, none },
            weight: Weight::Egg,
            time: millis.and_then(|m| ResponseTime::new(m).ok()),
            faults: vec!["leans".into()],
        },
    );
    let note = "[a-z,'\\- ]{0,20}";
    (prop::collection::vec(set, 1..4), 0i64..2000, note).prop_map(|(sets, day, note)| ParsedRide {
        facts: RideFacts::default(),
        line: 1,
        horse: Some("Juniper".into()),
        date: NaiveDate::from_ymd_opt(2020, 1, 1).map(|d| d + chrono::Duration::days(day)),
        sets,
        signs: vec!["licks".into()],
        note: note.trim().to_owned(),
    })
}

proptest! {
    #[test]
    fn what_is_written_is_read_as_the_same(ride in any_ride()) {
        let text = write(std::slice::from_ref(&ride)).unwrap();
        let all = read(&text, &lexicon());
        prop_assert!(all.diagnostics.is_empty(), "{}: {:?}", text, all.diagnostics);
        prop_assert_eq!(all.rides, vec![ride]);
    }

    #[test]
    fn no_text_makes_it_panic(text in "\\PC{0,200}", quoted in "(\"|,|\n|\r|a){0,40}") {
        read(&text, &lexicon());
        read(&format!("date,horse,rung,note\n{quoted}"), &lexicon());
    }
}

#[test]
fn a_first_line_of_nothing_but_commas_is_told_once() {
    let log = read(&",".repeat(39_000), &lexicon());
    let says: Vec<_> = log.diagnostics.iter().map(|d| d.says.as_str()).collect();
    assert_eq!(says.len(), 1);
    assert!(says[0].starts_with("there are 39001 columns"), "{says:?}");
}
