//! Each hard rule of a week by itself, and the score, from the planning contract's own words.

use cavesson_core::schedule::{Before, DAYS, Heat, Horse, Place, Ride, Rider, Span, WeekProblem, Work, breaks, score};

fn span(day: u8, from: u16, to: u16) -> Span {
    Span { day, from, to }
}

/// Two horses with two works each, two riders and two places, open from 7:00 to 12:00 on every day.
fn week() -> WeekProblem {
    let hours: Vec<Span> = (0..7).map(|d| span(d, 420, 720)).collect();
    let work = |id: &str, horse: usize, cows: u16| Work {
        id: id.into(),
        horse,
        minutes: 45,
        load: 30,
        places: vec![0],
        riders: vec![(0, 0), (1, 3)],
        worth: vec![10, 6, 3],
        gap_days: 2,
        cows,
    };
    WeekProblem {
        slot_minutes: 15,
        riders: ["r1", "r2"].map(|id| Rider { id: id.into(), hours: hours.clone() }).to_vec(),
        places: vec![
            Place { id: "pen".into(), at_once: 1, hours: hours.clone() },
            Place { id: "arena".into(), at_once: 2, hours },
        ],
        horses: ["h1", "h2"]
            .map(|id| Horse { id: id.into(), least: 1, most: 3, two_days: 60, week: 90, away: vec![span(6, 0, 1440)] })
            .to_vec(),
        works: vec![work("a", 0, 0), work("b", 0, 2), work("c", 1, 0), work("d", 1, 2)],
        heat: vec![Heat { span: span(5, 600, 720), most_load: 20 }],
        cows: [4; DAYS],
        day_names: WeekProblem::numbered_days(),
        before: vec![],
        fixed: vec![],
    }
}

fn ride(work: usize, day: u8, start: u16, rider: usize) -> Ride {
    Ride { work, day, start, place: 0, rider }
}

fn broken(week: &WeekProblem, rides: &[Ride]) -> Vec<u8> {
    let mut rules: Vec<u8> = breaks(week, rides).into_iter().map(|b| b.rule).collect();
    rules.sort_unstable();
    rules.dedup();
    rules
}

/// No rule.
const NONE: [u8; 0] = [];

#[test]
fn a_good_plan_breaks_nothing_and_ends_may_touch() {
    let rides = [ride(0, 0, 420, 0), ride(2, 0, 465, 0), ride(0, 2, 420, 0), ride(2, 3, 675, 1)];
    assert_eq!(broken(&week(), &rides), NONE);
    // 10 + 6 and 10 + 6, less 3 for the second rider.
    assert_eq!(score(&week(), &rides), 29);
    assert_eq!(score(&week(), &[]), -50, "25 for each ride short of a horse's least");
}

#[test]
fn each_rule_is_told_by_its_number() {
    let w = week();
    assert_eq!(broken(&w, &[ride(0, 0, 425, 0)]), [1]);
    assert_eq!(broken(&w, &[ride(0, 0, 690, 0)]), [2], "it would end after the hours");
    assert_eq!(broken(&w, &[Ride { place: 1, ..ride(0, 0, 420, 0) }]), [2], "not a place of the work");
    assert_eq!(broken(&w, &[ride(0, 0, 420, 0), ride(2, 0, 450, 1)]), [3], "the pen holds one");
    assert_eq!(broken(&w, &[ride(0, 6, 420, 0)]), [4], "away");
    assert_eq!(broken(&w, &[ride(0, 0, 420, 0), ride(1, 0, 480, 0)]), [4], "twice on one day");
    assert_eq!(broken(&w, &[ride(0, 0, 420, 0), ride(0, 1, 420, 0)]), [6]);
    assert_eq!(broken(&w, &[ride(0, 5, 600, 0)]), [7]);
    assert_eq!(broken(&w, &[ride(0, 5, 540, 0)]), NONE, "it ends as the heat begins at the latest");
    let four = [ride(0, 0, 420, 0), ride(1, 1, 420, 0), ride(0, 2, 420, 0), ride(1, 3, 420, 0)];
    assert_eq!(broken(&w, &four), [4, 5], "more than its most, and than its week");
    let mut few = w.clone();
    few.cows[0] = 3;
    assert_eq!(broken(&few, &[ride(1, 0, 420, 0), ride(3, 0, 480, 0)]), [8]);
    let mut once = w.clone();
    once.works[0].worth = vec![10];
    assert_eq!(broken(&once, &[ride(0, 0, 420, 0), ride(0, 2, 420, 0)]), [9]);
    let mut light = w;
    light.horses[0].two_days = 50;
    assert_eq!(broken(&light, &[ride(0, 0, 420, 0), ride(1, 1, 420, 0)]), [5]);
}

#[test]
fn riders_are_on_one_horse_and_hours_that_touch_are_not_joined() {
    let mut w = week();
    w.works[0].places = vec![1];
    w.works[2].places = vec![1];
    let at = |work, start, rider| Ride { work, day: 0, start, place: 1, rider };
    assert_eq!(broken(&w, &[at(0, 420, 0), at(2, 450, 0)]), [3]);
    assert_eq!(broken(&w, &[at(0, 420, 0), at(2, 450, 1)]), NONE);
    w.riders[0].hours = vec![span(0, 420, 450), span(0, 450, 720)];
    assert_eq!(broken(&w, &[at(0, 420, 0)]), [2]);
}

#[test]
fn the_week_before_counts_for_gaps_and_for_the_load_of_the_day_before() {
    let mut w = week();
    w.before = vec![Before { work: 0, day: -1, load: 40 }];
    assert_eq!(broken(&w, &[ride(0, 0, 420, 0)]), [5, 6]);
    assert_eq!(broken(&w, &[ride(1, 0, 420, 0)]), [5], "the load is the horse's");
    assert_eq!(broken(&w, &[ride(0, 1, 420, 0)]), NONE);
}

#[test]
fn no_rule_is_held_against_fixed_rides_alone() {
    let mut w = week();
    w.fixed = vec![ride(0, 0, 421, 0), ride(0, 1, 420, 0), ride(2, 1, 430, 0)];
    assert_eq!(broken(&w, &w.fixed), NONE);
    let mut with_one = w.fixed.clone();
    with_one.push(ride(2, 0, 420, 1));
    assert_eq!(broken(&w, &with_one), [3, 6], "the free one is in the pen with a fixed one, and a day before another");
}

#[test]
fn rides_are_told_by_the_bytes_of_their_ids() {
    let mut w = week();
    w.works[0].id = "h10".into();
    w.works[2].id = "h2".into();
    let mut rides = vec![ride(2, 0, 420, 0), ride(0, 0, 420, 0)];
    w.in_order(&mut rides);
    assert_eq!(rides.iter().map(|r| r.work).collect::<Vec<_>>(), [0, 2]);
}
