//! The stand-in horse does what it is said to: the same from the same seed, learning, lagging, forgetting.

use cavesson_core::{
    curriculum::{Course, Curriculum, Measure, Side},
    response::Tally,
};
use cavesson_sim::{Layoff, Nature, SimHorse, SimRide, Story, Subject, ride_out};
use chrono::{Datelike, Days, NaiveDate, Weekday};

fn course() -> Course {
    Course::of(Curriculum::standard()).unwrap()
}

fn date(n: u64) -> NaiveDate {
    NaiveDate::from_ymd_opt(2026, 3, 2).unwrap() + Days::new(n)
}

/// The foot of the ladder for a horse that is ridden.
fn foot(course: &Course) -> usize {
    course.find("G7@walk").unwrap()
}

/// The share of reps that meet the standard on a stretch of days, one set of twenty a day.
fn share(horse: &mut SimHorse<'_>, course: &Course, side: Side, days: std::ops::Range<u64>) -> f64 {
    let mut tally = Tally::default();
    for n in days {
        horse.begin_day(date(n));
        let reps: Vec<_> = (0..20).map(|_| horse.ask(foot(course), side).rep).collect();
        tally += Tally::of(&course.step(foot(course)).standard, &reps);
    }
    horse.end_day();
    f64::from(tally.met) / f64::from(tally.reps)
}

const EVEN: Nature = Nature {
    arrives_at: 1.6,
    knows: &[],
    learns: 0.12,
    ceiling: 2.3,
    day_sd: 0.35,
    stiff: None,
    gait_cost: 0.35,
    forgets: 0.4,
};

#[test]
fn the_same_seed_is_the_same_horse_and_another_seed_another() {
    let course = course();
    let ask = |seed| {
        let mut horse = SimHorse::new(&course, EVEN, seed);
        horse.begin_day(date(0));
        (0..50).map(|n| horse.ask(n % 3, Side::Left)).collect::<Vec<_>>()
    };
    assert_eq!(ask(7), ask(7));
    assert_ne!(ask(7), ask(8));
}

#[test]
fn it_learns_with_work_up_to_its_ceiling() {
    let course = course();
    let mut horse = SimHorse::new(&course, EVEN, 1);
    let first = share(&mut horse, &course, Side::Left, 0..5);
    let later = share(&mut horse, &course, Side::Left, 40..60);
    assert!(first < 0.55 && later > 0.8, "{first} then {later}");
    let mut dull = SimHorse::new(&course, Nature { ceiling: 0.9, ..EVEN }, 1);
    share(&mut dull, &course, Side::Left, 0..60);
    let stopped = share(&mut dull, &course, Side::Left, 60..80);
    assert!(stopped < 0.75, "{stopped}");
}

#[test]
fn the_stiff_side_lags() {
    let course = course();
    let mut horse = SimHorse::new(&course, Nature { stiff: Some((Side::Right, 1.0)), ..EVEN }, 3);
    let left = share(&mut horse, &course, Side::Left, 0..20);
    let right = share(&mut horse, &course, Side::Right, 20..40);
    assert!(left > right + 0.15, "left {left}, right {right}");
}

#[test]
fn a_lay_off_costs_and_a_few_days_do_not() {
    let course = course();
    let made = Nature { knows: &["G7"], arrives_at: 2.3, learns: 0.0, day_sd: 0.1, ..EVEN };
    let after = |idle: u64| {
        let mut horse = SimHorse::new(&course, made, 5);
        share(&mut horse, &course, Side::Left, 0..10);
        share(&mut horse, &course, Side::Left, 10 + idle..11 + idle)
    };
    assert!(after(1) > 0.75);
    assert!(after(60) < after(1) - 0.3, "{} after sixty days", after(60));
}

fn story() -> Story {
    Story {
        nature: EVEN,
        from: date(0),
        to: date(69),
        rides_a_week: 5,
        free_day: Weekday::Sun,
        layoff: None,
        troubles: vec![],
        subject: Subject::Planned,
        seed: 11,
    }
}

#[test]
fn a_story_is_ridden_in_order_with_sundays_and_lay_offs_free() {
    let course = course();
    let off = Layoff { from: date(20), to: date(40) };
    let rides = ride_out(&course, &Story { layoff: Some(off), ..story() });
    assert!(rides.is_sorted_by(|a, b| a.date < b.date));
    assert!(rides.iter().all(|r| r.date.weekday().number_from_monday() != 7));
    assert!(rides.iter().all(|r| !(off.from..=off.to).contains(&r.date)));
    assert!((25..=42).contains(&rides.len()), "{} rides", rides.len());
    assert_eq!(rides, ride_out(&course, &Story { layoff: Some(off), ..story() }));
}

#[test]
fn a_story_comes_out_alike_on_every_weekday_where_the_free_day_moves_with_it() {
    let course = course();
    let first = ride_out(&course, &story());
    for later in 1..7 {
        let moved = |day: NaiveDate| day + Days::new(later);
        let story = story();
        let free_day = moved(date(6)).weekday();
        let rides = ride_out(&course, &Story { from: moved(story.from), to: moved(story.to), free_day, ..story });
        let expected: Vec<SimRide> = first.iter().cloned().map(|r| SimRide { date: moved(r.date), ..r }).collect();
        assert_eq!(rides, expected, "{later} days later");
    }
}

#[test]
fn sets_are_on_sides_and_rungs_that_exist_and_faults_are_the_rungs_own() {
    let course = course();
    for SimRide { sets, .. } in ride_out(&course, &story()) {
        assert!(!sets.is_empty());
        for set in sets {
            let step = course.step(set.step);
            assert!(step.sides.has(set.side));
            let asked = step.measure == Measure::Reps;
            assert_eq!(
                (set.reps.is_empty(), set.counts.is_empty()),
                (!asked, asked),
                "a rung is ridden in its own measure"
            );
            assert!(set.counts.iter().all(|c| c.count.clone().checked(step.measure).is_ok()));
            let rung = Curriculum::standard().rung(&step.rung).unwrap();
            let faults = set.reps.into_iter().map(|r| r.fault).chain(set.counts.into_iter().map(|c| c.fault));
            for fault in faults.flatten() {
                assert!(rung.faults.contains(&fault));
            }
        }
    }
}

#[test]
fn work_moves_up_the_course_over_the_weeks() {
    let course = course();
    let rides = ride_out(&course, &story());
    let highest = |rides: &[SimRide]| rides.iter().flat_map(|r| &r.sets).map(|s| s.step).max().unwrap();
    assert_eq!(highest(&rides[..2]), foot(&course), "it begins at the foot of the ladder");
    assert!(highest(&rides) >= 3, "and is further on after ten weeks");
}
