//! A record that is taken up from a snapshot comes to the same as one that is watched from its first day.

use std::sync::Arc;

use cavesson_core::{
    advice::{
        Advisor, Call, CareChange, History, HorseRecord, Overrule, Posture, TrainerInput, WatchedHistory,
        WatchingAdvisor, replay_barn, replay_barn_on_threads,
    },
    belief::{BarnWeeks, Day, ModelSettings, Work},
    curriculum::{Change, Course, Curriculum, DatedChange, Gait, Sides, Step},
    response::{Answer, Rep, ResponseTime, Share, Standard, Weight},
};
use chrono::{Days, NaiveDate};
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

const HORSES: usize = 3;

fn first() -> NaiveDate {
    NaiveDate::from_ymd_opt(2026, 1, 5).unwrap()
}

fn day(rng: &mut ChaCha8Rng, course: &Course, date: NaiveDate) -> Day {
    let work = (0..rng.random_range(1..4))
        .map(|_| {
            let step = rng.random_range(0..12);
            let sides = course.step(step).sides.list();
            let side = sides[rng.random_range(0..sides.len())];
            let reps = (0..rng.random_range(1..7)).map(|_| Rep {
                answer: if rng.random_bool(0.7) { Answer::Gave } else { Answer::Tried { missing: None } },
                weight: Weight::ALL[rng.random_range(0..Weight::ALL.len())],
                time: ResponseTime::from_seconds(f64::from(rng.random_range(2..30)) / 10.0).ok(),
            });
            Work::reps(step, side, reps.collect())
        })
        .collect();
    Day::new(date, work)
}

fn record(rng: &mut ChaCha8Rng, course: &Course, days: u64) -> Vec<Arc<Day>> {
    let ridden: Vec<u64> = (0..days).filter(|_| rng.random_bool(0.7)).collect();
    ridden.into_iter().map(|n| Arc::new(day(rng, course, first() + Days::new(n)))).collect()
}

fn barn_of(course: &Course, herd: &[Vec<Arc<Day>>]) -> BarnWeeks {
    let settings = ModelSettings::default();
    let record = |days| HorseRecord { follower: Advisor::new(course, Posture::Steady, settings), days };
    let mut horses: Vec<_> = herd.iter().map(|days| record(&days[..])).collect();
    replay_barn(&settings, &mut horses, |_, _, _| {})
}

fn history(course: &Arc<Course>, herd: &[Vec<Arc<Day>>], trainer_input: &TrainerInput) -> History {
    History {
        course: Arc::clone(course),
        posture: Posture::Steady,
        settings: ModelSettings::default(),
        trainer_input: trainer_input.clone(),
        days: Arc::new(herd[0].clone()),
        barn: Arc::new(barn_of(course, herd)),
        horse: 0,
    }
}

/// Every number that the advisor holds, at the end, before the last day and at the morning that was kept.
fn told(watched: &WatchedHistory, keep: NaiveDate) -> [String; 3] {
    let told = |advisor: Advisor<'_>| format!("{:?}", advisor.snapshot());
    let last = watched.history().days.last().map(|day| day.date);
    [
        told(watched.at_end()),
        last.and_then(|last| watched.on_morning(last)).map(told).unwrap_or_default(),
        watched.on_morning(keep).map(told).unwrap_or_default(),
    ]
}

/// Something that a trainer does to the curriculum from a day on.
fn changed(rng: &mut ChaCha8Rng, on: NaiveDate) -> DatedChange {
    let steps = Curriculum::standard().course();
    let rung = steps.step(rng.random_range(0..12)).rung.clone();
    let standard = Standard {
        weight: Weight::ALL[rng.random_range(0..Weight::ALL.len())],
        seconds: ResponseTime::from_seconds(f64::from(rng.random_range(5..40)) / 10.0).unwrap(),
        share: Share::percent(rng.random_range(50..=95)).unwrap(),
        days: rng.random_range(1..6),
    };
    let change = match rng.random_range(0..4) {
        0 => Change::LeaveOut { rung: "O3".into() },
        1 => Change::TakeBack { rung: "O3".into() },
        _ => Change::Standard { rung, standard },
    };
    DatedChange { on, change }
}

/// Something that a trainer or a rider does to a record.
fn meddle(rng: &mut ChaCha8Rng, course: &Course, herd: &mut [Vec<Arc<Day>>], input: &mut TrainerInput, today: u64) {
    let on = first() + Days::new(rng.random_range(0..=today));
    match rng.random_range(0..7) {
        // A rep more today.
        0 | 1 => {
            let now = first() + Days::new(today);
            herd[0].retain(|d| d.date < now);
            let day = day(rng, course, now);
            herd[0].push(Arc::new(day));
        }
        // An old day corrected, or taken out; the same day read again.
        2 if !herd[0].is_empty() => {
            let at = rng.random_range(0..herd[0].len());
            herd[0][at] = Arc::new(day(rng, course, herd[0][at].date));
        }
        3 if !herd[0].is_empty() => drop(herd[0].remove(rng.random_range(0..herd[0].len()))),
        4 => {
            let to = if rng.random_bool(0.5) { Call::Advance } else { Call::Back };
            input.overrules.push(Overrule { on, step: rng.random_range(0..12), to });
            input.overrules.sort_by_key(|o| o.on);
        }
        5 if rng.random_bool(0.5) => input.findings.push(on),
        5 => input.changes.push((on, CareChange::Shoes)),
        // Another horse of the barn, whose weeks are judged with.
        _ => {
            let days = record(rng, course, today);
            herd[1] = days;
        }
    }
}

#[test]
fn what_is_taken_up_from_a_snapshot_is_the_same_to_the_last_bit() {
    for seed in 0..16 {
        let mut rng = ChaCha8Rng::seed_from_u64(seed);
        let mut course = Arc::new(Curriculum::standard().course());
        let mut changes = vec![];
        let mut herd: Vec<_> = (0..HORSES).map(|_| record(&mut rng, &course, 60)).collect();
        let mut input = TrainerInput::default();
        let (mut today, mut before, mut saved) = (60, None, 0);
        for _ in 0..8 {
            if rng.random_bool(0.2) {
                let on = first() + Days::new(rng.random_range(today - 10..=today));
                changes.push(changed(&mut rng, on));
                course = Arc::new(Curriculum::standard().changed(&changes).unwrap().course());
            } else {
                meddle(&mut rng, &course, &mut herd, &mut input, today);
            }
            let keep = first() + Days::new(today - 28);
            let history = history(&course, &herd, &input);
            let whole = WatchedHistory::watch(history.clone(), None, &[keep]);
            let taken_up = WatchedHistory::watch(history, before.as_ref(), &[keep]);
            assert_eq!(told(&taken_up, keep), told(&whole, keep), "seed {seed}, day {today}");
            saved += whole.days_watched() - taken_up.days_watched();
            before = Some(taken_up);
            today += rng.random_range(0..3);
        }
        assert!(saved > 0, "nothing was spared");
    }
}

#[test]
fn one_more_rep_costs_a_day_and_a_new_day_the_days_since_the_kept_morning() {
    let course = Arc::new(Curriculum::standard().course());
    let mut rng = ChaCha8Rng::seed_from_u64(3);
    let mut herd: Vec<_> = (0..HORSES).map(|_| record(&mut rng, &course, 200)).collect();
    let (input, keep) = (TrainerInput::default(), |today: u64| [first() + Days::new(today - 28)]);
    let before = WatchedHistory::watch(history(&course, &herd, &input), None, &keep(200));
    assert_eq!(before.days_watched(), herd[0].len());
    let now = first() + Days::new(200);
    for _ in 0..3 {
        herd[0].retain(|d| d.date < now);
        herd[0].push(Arc::new(day(&mut rng, &course, now)));
        let after = WatchedHistory::watch(history(&course, &herd, &input), Some(&before), &keep(200));
        assert_eq!(after.days_watched(), 1);
    }
    let today = WatchedHistory::watch(history(&course, &herd, &input), Some(&before), &keep(200));
    herd[0].push(Arc::new(day(&mut rng, &course, now + Days::new(1))));
    let next = WatchedHistory::watch(history(&course, &herd, &input), Some(&today), &keep(201));
    assert!((1..=29).contains(&next.days_watched()), "{}", next.days_watched());
}

#[test]
fn another_standard_from_today_on_costs_today_and_one_from_the_first_day_on_all_of_it() {
    let course = Arc::new(Curriculum::standard().course());
    let mut rng = ChaCha8Rng::seed_from_u64(5);
    let herd: Vec<_> = (0..HORSES).map(|_| record(&mut rng, &course, 200)).collect();
    let input = TrainerInput::default();
    let last = herd[0].last().unwrap().date;
    let before = WatchedHistory::watch(history(&course, &herd, &input), None, &[]);
    let stricter = |rung: &str, on: NaiveDate| {
        let was = Curriculum::standard().rung(rung).unwrap().standard;
        let standard = Standard { share: Share::percent(97).unwrap(), weight: Weight::Feather, ..was };
        let change = DatedChange { on, change: Change::Standard { rung: rung.into(), standard } };
        let course = Arc::new(Curriculum::standard().changed(&[change]).unwrap().course());
        let days = WatchedHistory::watch(history(&course, &herd, &input), Some(&before), &[]).days_watched();
        let whole = WatchedHistory::watch(history(&course, &herd, &input), None, &[]);
        (days, told(&whole, last) == told(&before, last))
    };
    let rung = course.step(herd[0].last().unwrap().work[0].step).rung.clone();
    assert_eq!(stricter(&rung, last), (1, false), "what it says is another");
    assert_eq!(stricter(&rung, first()), (herd[0].len(), false));
}

/// Of a young horse the morning before its first day is kept, which has seen nothing, and yet is of its posture and its course.
#[test]
fn nothing_is_taken_up_of_another_posture_or_other_steps() {
    let course = Arc::new(Curriculum::standard().course());
    let mut rng = ChaCha8Rng::seed_from_u64(8);
    let herd: Vec<_> = (0..HORSES).map(|_| record(&mut rng, &course, 50)).collect();
    let (input, keep) = (TrainerInput::default(), [first() - Days::new(30)]);
    let before = WatchedHistory::watch(history(&course, &herd, &input), None, &keep);
    let last = herd[0].last().unwrap().date;

    let patient = History { posture: Posture::Patient, ..history(&course, &herd, &input) };
    let taken_up = WatchedHistory::watch(patient.clone(), Some(&before), &keep);
    assert_eq!(told(&taken_up, last), told(&WatchedHistory::watch(patient, None, &keep), last));

    let plain = Step::plain("ours", Gait::Walk, Sides::Each, Standard::default());
    let steps = course.steps().iter().map(|s| (Step { needs: vec![], ..s.clone() }, vec![]));
    let longer = Arc::new(Course::new(steps.chain([(plain, vec![])]).collect()).unwrap());
    let longer = history(&longer, &herd, &input);
    let taken_up = WatchedHistory::watch(longer.clone(), Some(&before), &keep);
    assert_eq!(told(&taken_up, last), told(&WatchedHistory::watch(longer, None, &keep), last));
}

/// Up to which weight an answer meets a standard depends on which weights the log uses. What was asked of a step is read by what was used
/// then, also where its new standard comes after others were used elsewhere.
#[test]
fn a_new_standard_is_read_by_the_weights_in_use_when_its_step_was_last_asked() {
    let course = Arc::new(Curriculum::standard().course());
    let asked = |n: u64, step: usize, weight: Weight| {
        let side = course.step(step).sides.list()[0];
        let rep = Rep { answer: Answer::Gave, weight, time: None };
        Arc::new(Day::new(first() + Days::new(n), vec![Work::reps(step, side, vec![rep; 4])]))
    };
    let mut days: Vec<_> = (0..4).map(|n| asked(n, 0, Weight::ALL[2])).collect();
    days.extend((4..6).map(|n| asked(n, 1, Weight::ALL[3])));
    let herd = vec![days];
    let (input, last) = (TrainerInput::default(), first() + Days::new(5));
    let before = WatchedHistory::watch(history(&course, &herd, &input), None, &[]);
    let rung = course.step(0).rung.clone();
    let standard = Standard { weight: Weight::ALL[3], ..course.step(0).standard };
    let change = DatedChange { on: last, change: Change::Standard { rung, standard } };
    let course = Arc::new(Curriculum::standard().changed(&[change]).unwrap().course());
    let taken_up = WatchedHistory::watch(history(&course, &herd, &input), Some(&before), &[]);
    assert_eq!(taken_up.days_watched(), 1);
    // Never put by, so that nothing is taken up again.
    let mut whole = Advisor::new(&course, Posture::Steady, ModelSettings::default());
    herd[0].iter().for_each(|day| whole.watch(day).unwrap());
    assert_eq!(format!("{:?}", taken_up.at_end().snapshot()), format!("{:?}", whole.snapshot()));
}

#[test]
fn one_pass_over_a_barn_on_any_threads_is_the_same_as_each_horse_by_itself() {
    let course = Arc::new(Curriculum::standard().course());
    let settings = ModelSettings::default();
    for seed in 0..6 {
        let mut rng = ChaCha8Rng::seed_from_u64(seed);
        let herd: Vec<_> = (0..HORSES).map(|_| Arc::new(record(&mut rng, &course, 60))).collect();
        let mut input = TrainerInput::default();
        for today in 50..54 {
            meddle(&mut rng, &course, &mut [vec![], vec![]], &mut input, today);
        }
        let keep = [first() + Days::new(32), first() - Days::new(3)];
        for threads in 1..4 {
            let follower = |days: &Arc<_>| {
                let posture = (Posture::Steady, settings);
                WatchingAdvisor::new(&course, posture, input.clone(), Arc::clone(days), &keep)
            };
            let mut horses: Vec<_> =
                herd.iter().map(|days| HorseRecord { follower: follower(days), days: &days[..] }).collect();
            let mut barn = BarnWeeks::new(&settings, HORSES);
            replay_barn_on_threads(threads, &mut barn, &mut horses);
            let barn = Arc::new(barn);
            for (n, horse) in horses.into_iter().enumerate() {
                let (trainer_input, days) = (input.clone(), Arc::clone(&herd[n]));
                let barn = Arc::clone(&barn);
                let (course, posture) = (Arc::clone(&course), Posture::Steady);
                let history = History { course, posture, settings, trainer_input, days, barn, horse: n };
                let by_itself = WatchedHistory::watch(history.clone(), None, &keep);
                let together = horse.follower.watched(Arc::clone(&history.barn), n).unwrap();
                for morning in keep {
                    let same = told(&together, morning) == told(&by_itself, morning);
                    assert!(same, "seed {seed}, horse {n}, {threads} threads");
                }
                let again = WatchedHistory::watch(history, Some(&together), &keep);
                assert_eq!(again.days_watched(), 0, "nothing is left to watch");
            }
        }
    }
}
