//! Plans of a week: against every plan there is on small weeks, and against the rules on any.

use std::time::Duration;

use cavesson_core::schedule::{
    DAYS, Effort, Heat, Horse, Pace, Pacer, Place, Ride, Rider, Span, WeekProblem, Work, breaks, left_out, plan, score,
    shift_early, short,
};
use proptest::prelude::*;

use crate::ways::{hours, ways};

fn quietly(week: &WeekProblem, seed: u64, rounds: u32) -> Vec<Ride> {
    plan(week, Effort { seed, rounds }, &mut |_| Some(Pace::FULL))
}

/// The best score of any plan, by trying every way of every ride: for weeks of a few rides.
fn by_force(week: &WeekProblem) -> i64 {
    fn from(week: &WeekProblem, all: &[Ride], at: usize, rides: &mut Vec<Ride>, best: &mut i64) {
        *best = (*best).max(score(week, rides));
        for n in at..all.len() {
            rides.push(all[n]);
            if breaks(week, rides).is_empty() {
                from(week, all, n + 1, rides, best);
            }
            rides.pop();
        }
    }
    let mut best = i64::MIN;
    from(week, &ways(week), 0, &mut vec![], &mut best);
    best
}

prop_compose! {
    /// Two horses, three works, one or two riders with an hour or two on two days: small enough for every plan.
    fn small_week()(
        least in prop::collection::vec(0u8..3, 2),
        most in prop::collection::vec(1u8..4, 2),
        two_days in prop::collection::vec(20u32..90, 2),
        works in prop::collection::vec((0usize..2, prop::sample::select(vec![30u16, 45, 60]), 10u32..50, 1i64..12, 0i64..8, 1u8..3, 0u16..2), 3),
        second in prop::bool::ANY, at_once in 1u16..3, cows in 0u16..2, costs in prop::collection::vec(0i64..4, 3), hot in 0u32..60,
    ) -> WeekProblem {
        let rider = |id: &str, from: u16| Rider { id: id.into(), hours: vec![hours(0, from, from + 1), hours(1, from, from + 1)] };
        let mut riders = vec![rider("r1", 8)];
        if second {
            riders.push(rider("r2", 8));
        }
        let both = riders.len();
        WeekProblem {
            slot_minutes: 30,
            riders,
            places: vec![Place { id: "pen".into(), at_once, hours: vec![hours(0, 6, 20), hours(1, 6, 20)] }],
            horses: (0..2)
                .map(|h| Horse {
                    id: format!("h{h}"),
                    least: least[h].min(most[h]),
                    most: most[h],
                    two_days: two_days[h],
                    week: two_days[h] + 20,
                    away: vec![],
                })
                .collect(),
            works: works
                .into_iter()
                .enumerate()
                .map(|(n, (horse, minutes, load, first, drop, gap_days, cows))| Work {
                    id: format!("w{n}"),
                    horse,
                    minutes,
                    load,
                    places: vec![0],
                    riders: (0..both).map(|r| (r, if r == 0 { 0 } else { costs[n] })).collect(),
                    worth: vec![first, (first - drop).max(0)],
                    gap_days,
                    cows,
                })
                .collect(),
            heat: vec![Heat { span: hours(1, 8, 9), most_load: hot }],
            cows: [cows; DAYS],
            day_names: WeekProblem::numbered_days(),
            before: vec![],
            fixed: vec![],
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 60, ..ProptestConfig::default() })]

    #[test]
    fn small_weeks_are_planned_as_well_as_can_be(week in small_week(), seed in 0u64..9) {
        let rides = quietly(&week, seed, 6);
        prop_assert_eq!(breaks(&week, &rides), vec![]);
        prop_assert_eq!(score(&week, &rides), by_force(&week));
    }

    #[test]
    fn any_answer_holds_the_rules_with_fixed_rides_too_and_more_time_is_never_worse(week in small_week(), fixed in 0usize..3, seed in 0u64..9) {
        let mut week = week;
        week.fixed = quietly(&week, 1, 1).into_iter().take(fixed).collect();
        // A locked ride may break what it likes: here the day has no cows any more.
        week.cows = [0; DAYS];
        let few = quietly(&week, seed, 1);
        let more = quietly(&week, seed, 5);
        for rides in [&few, &more] {
            prop_assert_eq!(breaks(&week, rides), vec![]);
            prop_assert!(week.fixed.iter().all(|f| rides.contains(f)));
            let early = shift_early(&week, rides);
            prop_assert_eq!(breaks(&week, &early), vec![]);
            prop_assert_eq!(score(&week, &early), score(&week, rides));
            let starts = |rides: &[Ride]| rides.iter().map(|r| u32::from(r.start)).sum::<u32>();
            prop_assert!(starts(&early) <= starts(rides) && week.fixed.iter().all(|f| early.contains(f)));
        }
        prop_assert!(score(&week, &more) >= score(&week, &few));
        prop_assert_eq!(quietly(&week, seed, 5), more.clone());
        let told: usize = left_out(&week, &more).iter().map(|l| l.missed).sum();
        let wanted: usize = week.works.iter().map(|w| w.worth.len()).sum();
        prop_assert_eq!(told, wanted - more.len());
        for s in short(&week, &more) {
            prop_assert!(s.rides < s.least && !s.why.is_empty());
        }
    }
}

proptest! {
    /// Hours change after a week was planned, and a hand puts rides anywhere: whatever stands there is judged and told.
    #[test]
    fn rides_at_any_hour_whatever_are_judged_and_never_break_the_judge(
        week in small_week(),
        rides in prop::collection::vec((0usize..3, 0u8..7, 0u16..1440, any::<prop::sample::Index>()), 0..12),
        locked in 0usize..3,
    ) {
        let mut week = week;
        let ride = |(work, day, start, rider): (usize, u8, u16, prop::sample::Index)| {
            Ride { work, day, start, place: 0, rider: rider.index(week.riders.len()) }
        };
        let rides: Vec<Ride> = rides.into_iter().map(ride).collect();
        for r in &rides {
            let work = &week.works[r.work];
            let inside = |hours: &[Span]| {
                hours.iter().any(|s| s.day == r.day && s.from <= r.start && r.start + work.minutes <= s.to)
            };
            let theirs = work.places.contains(&r.place) && work.riders.iter().any(|(rider, _)| *rider == r.rider);
            let fits = theirs && inside(&week.riders[r.rider].hours) && inside(&week.places[r.place].hours);
            let named = |rule| breaks(&week, &[*r]).iter().any(|b| b.rule == rule);
            prop_assert_eq!((named(1), named(2)), (r.start % week.slot_minutes != 0, !fits));
        }
        let of_work = |w: usize| rides.iter().filter(|r| r.work == w).count();
        let missed = |w: usize| week.works[w].worth.len().saturating_sub(of_work(w));
        let told = left_out(&week, &rides);
        for w in 0..week.works.len() {
            prop_assert_eq!(told.iter().filter(|l| l.work == w).map(|l| l.missed).sum::<usize>(), missed(w));
        }
        let of_horse = |h: usize| rides.iter().filter(|r| week.works[r.work].horse == h).count();
        let few = (0..week.horses.len()).filter(|&h| of_horse(h) < usize::from(week.horses[h].least));
        let short = short(&week, &rides);
        prop_assert_eq!(short.iter().map(|s| s.horse).collect::<Vec<_>>(), few.collect::<Vec<_>>());
        prop_assert!(short.iter().all(|s| !s.why.is_empty()));
        // Locked where they are, they stay, and nothing else is put on them.
        week.fixed = rides.into_iter().take(locked).collect();
        let planned = quietly(&week, 1, 1);
        prop_assert!(week.fixed.iter().all(|f| planned.contains(f)));
        prop_assert_eq!(breaks(&week, &planned), vec![]);
    }
}

#[test]
fn a_ride_after_everyones_hours_is_named_and_in_nobodys_way() {
    let week = one_horse();
    let late = Ride { work: 0, day: 0, start: 22 * 60, place: 0, rider: 0 };
    assert!(breaks(&week, &[late]).iter().any(|b| b.rule == 2), "{:?}", breaks(&week, &[late]));
    assert_eq!(left_out(&week, &[late])[0].missed, 3);
    let before = Ride { start: 5 * 60, ..late };
    assert_eq!(left_out(&week, &[before])[0].missed, 3);
    assert_eq!(shift_early(&week, &[late]), [Ride { start: 7 * 60, ..late }], "there is room in the hours");
}

fn one_horse() -> WeekProblem {
    WeekProblem {
        slot_minutes: 15,
        riders: vec![Rider { id: "r1".into(), hours: (0..6).map(|d| hours(d, 7, 9)).collect() }],
        places: vec![Place { id: "arena".into(), at_once: 1, hours: (0..7).map(|d| hours(d, 6, 20)).collect() }],
        horses: vec![Horse {
            id: "h1".into(),
            least: 3,
            most: 5,
            two_days: 70,
            week: 200,
            away: vec![hours(2, 0, 24)],
        }],
        works: vec![Work {
            id: "h1-stop".into(),
            horse: 0,
            minutes: 45,
            load: 40,
            places: vec![0],
            riders: vec![(0, 0)],
            worth: vec![10, 6, 3, 1],
            gap_days: 1,
            cows: 0,
        }],
        heat: vec![],
        cows: [0; DAYS],
        day_names: WeekProblem::numbered_days(),
        before: vec![],
        fixed: vec![],
    }
}

#[test]
fn loads_keep_hard_days_apart_and_the_reason_is_told() {
    // 40 and 40 are over 70 for two days running, and it is away on day 2: days 0, 3 and 5 or the like, three rides.
    let week = one_horse();
    let rides = quietly(&week, 1, 2);
    assert_eq!((rides.len(), score(&week, &rides)), (3, 19));
    let left = left_out(&week, &rides);
    assert_eq!((left[0].missed, left[0].why.as_str()), (1, "h1 would be over its load of 70 for two days"));
    assert!(short(&week, &rides).is_empty());
}

#[test]
fn what_cannot_be_is_told_as_such() {
    let mut week = one_horse();
    week.works[0].places.clear();
    let rides = quietly(&week, 1, 2);
    assert!(rides.is_empty());
    assert_eq!(score(&week, &rides), -75);
    assert!(left_out(&week, &rides)[0].why.starts_with("no hour fits"));
    assert!(short(&week, &rides)[0].why.starts_with("h1-stop: no hour fits"));
    week.works.clear();
    assert_eq!(short(&week, &quietly(&week, 1, 1))[0].why, "it has no works");
}

#[test]
fn it_stops_when_it_is_told_to_with_the_best_so_far() {
    let week =
        WeekProblem { horses: vec![Horse { least: 7, most: 7, ..one_horse().horses[0].clone() }], ..one_horse() };
    let mut heard = vec![];
    let rides = plan(&week, Effort { seed: 1, rounds: 1000 }, &mut |p| {
        heard.push(p.score);
        (heard.len() < 3).then_some(Pace::FULL)
    });
    assert_eq!(heard.len(), 3);
    assert!(heard.is_sorted() && score(&week, &rides) == heard[2]);
}

#[test]
fn a_search_on_a_slow_machine_makes_fewer_moves_and_ends_in_time() {
    /// The milliseconds that all rounds take where a full one takes so many, and how many of them went at the full pace.
    fn run(rounds: u32, limit: u64, ms_of_round: impl Fn(u32) -> f64) -> (f64, usize) {
        let mut pacer = Pacer::new(rounds, Duration::from_millis(limit));
        let (mut pace, mut full, mut spent) = (Pace::FULL, 0, 0.0);
        for done in 1..=rounds {
            spent += ms_of_round(done) * pace.share();
            full += usize::from(pace == Pace::FULL);
            pace = pacer.after(done, Duration::from_secs_f64(spent / 1000.0));
        }
        (spent, full)
    }
    // On an idle machine none is smaller, nor where one round takes five times as long.
    assert_eq!(run(51, 2000, |_| 35.0), (1785.0, 51));
    assert_eq!(run(51, 2000, |done| if done == 20 { 175.0 } else { 35.0 }).1, 51);
    for slower in [1.2, 1.5, 2.0, 3.0] {
        let (spent, full) = run(51, 2000, |_| 35.0 * slower);
        // A sixteenth of a round is given away at each of seven looks at most.
        assert!((1400.0..=2000.0).contains(&spent) && full < 51, "{slower}: {spent} ms, {full} full rounds");
    }
    // One that becomes busy on the way is looked at again.
    let (spent, _) = run(51, 2000, |done| if done < 25 { 35.0 } else { 70.0 });
    assert!(spent <= 2000.0, "{spent}");
    // Nothing is divided by nothing.
    assert_eq!(Pacer::new(0, Duration::ZERO).after(0, Duration::ZERO), Pace::FULL);
    assert!(Pacer::new(1, Duration::ZERO).after(1, Duration::from_millis(5)) <= Pace::FULL);
}

#[test]
fn fewer_moves_give_a_plan_that_breaks_nothing_and_the_same_one_each_time() {
    let week = one_horse();
    let slow = || {
        let mut pacer = Pacer::new(8, Duration::from_millis(100));
        let spent = |rounds: u32| Duration::from_millis(40 * u64::from(rounds));
        plan(&week, Effort { seed: 1, rounds: 8 }, &mut |p| Some(pacer.after(p.rounds, spent(p.rounds))))
    };
    assert_eq!(breaks(&week, &slow()), vec![]);
    assert_eq!(slow(), slow());
}
