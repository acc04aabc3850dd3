//! A ride put on a day by hand: against every hour, rider and place there is.

use cavesson_core::schedule::{DAYS, Horse, Place, Ride, Rider, SlotRequest, WeekProblem, Work, best_slot, breaks};
use proptest::prelude::*;

use crate::ways::{hours, ways};

/// Two riders with a morning each, a pen that holds one, three horses with a work each; the second rider costs 2.
fn week() -> WeekProblem {
    let rider = |id: &str, from| Rider { id: id.into(), hours: (0..3).map(|d| hours(d, from, from + 3)).collect() };
    let open = |id: &str, at_once| Place { id: id.into(), at_once, hours: (0..3).map(|d| hours(d, 6, 12)).collect() };
    WeekProblem {
        slot_minutes: 15,
        riders: vec![rider("dell", 7), rider("mara", 8)],
        places: vec![open("pen", 1), open("arena", 2)],
        horses: (0..3)
            .map(|n| Horse { id: format!("h{n}"), least: 0, most: 2, two_days: 60, week: 90, away: vec![] })
            .collect(),
        works: (0..3)
            .map(|n| Work {
                id: format!("w{n}"),
                horse: n,
                minutes: 40,
                load: 30,
                places: if n == 0 { vec![0] } else { vec![0, 1] },
                riders: vec![(0, 0), (1, 2)],
                worth: vec![5, 3],
                gap_days: 1,
                cows: 0,
            })
            .collect(),
        heat: vec![],
        cows: [0; DAYS],
        before: vec![],
        day_names: WeekProblem::numbered_days(),
        fixed: vec![],
    }
}

const OPEN: SlotRequest = SlotRequest { work: 0, day: 1, rider: None, place: None };

#[test]
fn it_goes_where_it_is_in_nobodys_way_cheapest_then_earliest() {
    let week = week();
    let first = Ride { work: 0, day: 1, start: 7 * 60, place: 0, rider: 0 };
    assert_eq!(best_slot(&week, &[], OPEN), Some(first));
    // The pen is taken until twenty to eight, so the next quarter of an hour.
    let other = Ride { work: 1, ..first };
    assert_eq!(best_slot(&week, &[other], OPEN), Some(Ride { start: 7 * 60 + 45, ..first }));
    // Asked of the other rider: hers, although she costs more, and within her hours.
    let hers = best_slot(&week, &[], SlotRequest { rider: Some(1), ..OPEN });
    assert_eq!(hers, Some(Ride { rider: 1, start: 8 * 60, ..first }));
}

#[test]
fn what_cannot_be_is_put_where_it_breaks_least_and_what_nobody_rides_nowhere() {
    let mut week = week();
    // Nobody has hours on that day: one rule is broken whatever the hour.
    let late = best_slot(&week, &[], SlotRequest { day: 5, ..OPEN }).unwrap();
    assert_eq!((late.day, late.rider), (5, 0));
    assert!(!breaks(&week, &[late]).is_empty());
    // The horse is ridden that day already: only that is broken, and no hours besides.
    let there = Ride { work: 0, day: 1, start: 7 * 60, place: 0, rider: 0 };
    let twice = best_slot(&week, &[there], OPEN).unwrap();
    assert!(breaks(&week, &[there, twice]).iter().all(|b| b.rule != 2 && b.rule != 3));
    week.works[0].riders.clear();
    assert_eq!(best_slot(&week, &[], OPEN), None);
    assert_eq!(
        best_slot(&week, &[], SlotRequest { rider: Some(0), ..OPEN }).map(|r| r.rider),
        Some(0),
        "asked for all the same"
    );
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 64, ..ProptestConfig::default() })]

    #[test]
    fn no_other_hour_rider_or_place_breaks_fewer_rules_nor_costs_less_where_none_is_broken(
        picks in prop::collection::vec(any::<prop::sample::Index>(), 0..6), work in 0usize..3, day in 0u8..4,
    ) {
        let week = week();
        let all = ways(&week);
        let rides: Vec<Ride> = picks.iter().map(|p| all[p.index(all.len())]).collect();
        let with = |r: Ride| breaks(&week, &[rides.as_slice(), &[r]].concat()).len();
        let found = best_slot(&week, &rides, SlotRequest { work, day, rider: None, place: None }).unwrap();
        let cost = |r: &Ride| week.works[work].riders.iter().find(|c| c.0 == r.rider).unwrap().1;
        for start in (0..24 * 60 - 40).step_by(15) {
            for &place in &week.works[work].places {
                for rider in 0..2 {
                    let other = Ride { work, day, start, place, rider };
                    prop_assert!(with(found) <= with(other), "{found:?} breaks more than {other:?}");
                    if with(other) == breaks(&week, &rides).len() {
                        prop_assert!((cost(&found), found.start) <= (cost(&other), start));
                    }
                }
            }
        }
    }
}
