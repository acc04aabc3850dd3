//! The ride of a day, put together from the record, the heat, the note and the trainer's hand. Common practice, no
//! published source, where nothing else is named.

use cavesson_core::{
    advice::{Advisor, AskContext, Posture, Status},
    barn::{Ground, Surface, Trait},
    belief::{Day, ModelSettings, Off, Work},
    curriculum::{Course, Curriculum, Gait, Hands, Place, Side, StepIx},
    load::{HeatBand, LayOff, OffReason},
    response::Answer,
    ride::{
        CheckContext, Conditions, Edit, Faulted, Habits, Mouthpiece, Purpose, Reason, RidePlan, Split, Swap, checks,
        choices, has_sore_mouth, is_tight, is_unsettled, plan,
    },
};

use crate::support::{date, day, work};

fn course() -> Course {
    Curriculum::standard().course()
}

/// Works one step on both sides, in the arena.
fn both(course: &Course, id: &str, left: (usize, usize), right: (usize, usize)) -> Vec<Work> {
    let step = course.find(id).unwrap();
    let weight = course.step(step).standard.weight;
    let sides = course.step(step).sides.list().iter();
    sides
        .map(|&s| {
            let (met, missed) = if s == Side::Right { right } else { left };
            let mut work = work(step, s, met, missed);
            work.reps.iter_mut().filter(|r| r.answer == Answer::Gave).for_each(|r| r.weight = weight);
            Work { place: Some(Place::Arena), ..work }
        })
        .collect()
}

/// A horse that owns the first rungs, and has begun on S4 two days ago.
fn green<'a>(course: &'a Course, posture: Posture) -> Advisor<'a> {
    let mut advisor = Advisor::new(course, posture, ModelSettings::default());
    for n in 0..14 {
        let mut all = both(course, "G7@walk", (9, 0), (9, 0));
        all.extend(both(course, "S1", (9, 0), (9, 0)));
        all.extend(both(course, "G10@walk", (9, 0), (9, 0)));
        if n > 11 {
            all.extend(both(course, "S4@stand", (0, 8), (8, 0)));
        }
        advisor.watch(&day(n, all)).unwrap();
    }
    advisor
}

fn cool(note: &str) -> Conditions {
    Conditions {
        place: Place::Arena,
        hands: Hands::Trainer,
        heat: HeatBand::Fine,
        note: note.to_owned(),
        traits: vec![],
        comeback: None,
    }
}

fn purposes(plan: &RidePlan) -> Vec<Purpose> {
    plan.parts.iter().map(|p| p.purpose).collect()
}

#[test]
fn a_ride_goes_from_the_ground_to_the_close_with_air_after_each_subject() {
    let course = course();
    let horse = green(&course, Posture::Patient);
    let plan = plan(&horse.standing(date(15)), &Habits::default(), &cool("left shoulder pops"));
    assert_eq!(
        purposes(&plan),
        [
            Purpose::Ground,
            Purpose::Loosen,
            Purpose::Loosen,
            Purpose::Loosen,
            Purpose::Main,
            Purpose::Air,
            Purpose::Close
        ]
    );
    assert!(plan.parts[0].says.ends_with("From last time: left shoulder pops"));
    let main = &plan.parts[4];
    assert_eq!(course.step(main.step.unwrap()).id, "S4@stand");
    assert!(
        main.split.unwrap().left > 50 && main.first == Some(Side::Left),
        "more on the stiff side, and first: {main:?}"
    );
    assert!(main.says.contains("Standard: 8 of 10"), "{}", main.says);
    assert!(plan.why[0].starts_with("Hip over"), "{:?}", plan.why);
    assert!(plan.next_best.is_some() && plan.quit.contains("on the left"));
}

#[test]
fn what_met_under_half_is_ridden_again_but_not_more_than_three_days_running() {
    let course = course();
    let at = |ix: &(usize, Reason)| (course.step(ix.0).id.clone(), ix.1);
    let mut horse = green(&course, Posture::Steady);
    horse.watch(&day(14, both(&course, "G7@walk", (9, 0), (9, 0)))).unwrap();
    let drilled =
        |n: u64, horse: &mut Advisor<'_>| horse.watch(&day(n, both(&course, "G8@stand", (1, 7), (2, 6)))).unwrap();
    for (n, days) in [(15, 1), (16, 2), (17, 3)] {
        drilled(n, &mut horse);
        let first = at(&choices(&horse.standing(date(n + 1)), &Habits::default())[0]);
        assert_eq!(first, ("G8@stand".to_owned(), Reason::Drill { days }));
    }
    drilled(18, &mut horse);
    let first = at(&choices(&horse.standing(date(19)), &Habits::default())[0]);
    assert_eq!(first.0, "S4@stand", "after that, something else");
}

#[test]
fn a_horse_that_sours_on_sameness_gets_another_subject() {
    let course = course();
    let mut horse = green(&course, Posture::Steady);
    let sour = Day { off: vec![Off::Sour], ..day(15, both(&course, "G8@stand", (1, 7), (2, 6))) };
    horse.watch(&sour).unwrap();
    let first = choices(&horse.standing(date(18)), &Habits::default())[0];
    assert_eq!(course.step(first.0).id, "S4@stand");
    assert_ne!(first.1, Reason::Drill { days: 1 });
}

#[test]
fn a_swap_made_twice_is_made_beforehand() {
    let course = course();
    let horse = green(&course, Posture::Steady);
    let (from, to) = (course.find("S4@stand").unwrap(), course.find("G8@stand").unwrap());
    let standing = horse.standing(date(15));
    assert_eq!(choices(&standing, &Habits::default())[0].0, from);
    let swap = |n| Swap { on: date(n), from, to };
    let once = Habits { swaps: vec![swap(14)], ..Habits::default() };
    assert_eq!(choices(&standing, &once)[0].0, from);
    let twice = Habits { swaps: vec![swap(12), swap(14)], ..Habits::default() };
    assert_eq!(choices(&standing, &twice)[0], (to, Reason::Swapped { times: 2 }));
}

#[test]
fn the_likely_cause_of_a_fault_comes_before_what_is_under_way() {
    let course = course();
    let horse = green(&course, Posture::Steady);
    let standing = horse.standing(date(15));
    let (first, cause) = (course.find("S4@stand").unwrap(), course.find("G8@stand").unwrap());
    let at = course.find("T2").unwrap();
    let fault = |times| Faulted { at, tag: "sticks".into(), go_to: vec!["G8".into()], times };
    let habits = |times| Habits { faulted: vec![fault(times)], ..Habits::default() };
    assert_eq!(choices(&standing, &habits(2))[0].0, first, "twice is chance");
    let all = choices(&standing, &habits(3));
    assert_eq!(all[0], (cause, Reason::Cause { at, times: 3 }));
    assert_eq!(all.iter().filter(|c| c.0 == cause).count(), 1, "it stands there once");
    let says = all[0].1.says(&course);
    assert_eq!(says, "A fault showed 3 times lately in stop at the walk: the cause is likely here");
    // What is owned, or was not reached, is no subject for it.
    let owned = Faulted { go_to: vec!["T6".into()], ..fault(9) };
    assert_eq!(choices(&standing, &Habits { faulted: vec![owned], ..Habits::default() })[0].0, first);
}

#[test]
fn heat_shortens_then_slows_then_leaves_what_it_owns() {
    let course = course();
    let horse = green(&course, Posture::Steady);
    let standing = horse.standing(date(15));
    let hot = |heat| plan(&standing, &Habits::default(), &Conditions { heat, ..cool("") });
    let reps = |p: &RidePlan| p.parts.iter().find(|p| p.purpose == Purpose::Main).and_then(|p| p.reps);
    assert_eq!((reps(&hot(HeatBand::Fine)), reps(&hot(HeatBand::Care))), (Some(10), Some(7)));
    let too_hot = hot(HeatBand::NoHardWork);
    assert_eq!(reps(&too_hot), None);
    assert!(too_hot.why.iter().any(|w| w.contains("Too hot")), "{:?}", too_hot.why);
    assert!(too_hot.next_best.unwrap().why.contains("too hot"));
}

#[test]
fn a_horse_on_its_way_back_is_led_and_then_asked_for_what_it_owned_no_faster_than_the_day() {
    let course = course();
    let horse = green(&course, Posture::Steady);
    let standing = horse.standing(date(15));
    let off = LayOff { off_since: date(0), back_on: date(15), why: OffReason::Injury, vet_agrees: false };
    let on = |n| plan(&standing, &Habits::default(), &Conditions { comeback: off.on(date(n)), ..cool("") });
    let led = on(15);
    assert_eq!(purposes(&led), [Purpose::Ground]);
    assert!(led.why[0].starts_with("Day 1 of 10 back in work: walk in hand"), "{:?}", led.why);
    assert!(on(14).parts.is_empty(), "nothing while it is off");
    let walked = on(17);
    let main = walked.parts.iter().find(|p| p.purpose == Purpose::Main).unwrap();
    let step = main.step.unwrap();
    assert!(standing.status(step) == Status::Owned && course.step(step).gait <= Gait::Walk);
    assert!(main.reps < Some(10), "{main:?}");
    assert!(walked.why[0].contains("see that it is still there"), "{:?}", walked.why);
    let fastest = walked.parts.iter().filter_map(|p| p.step).map(|ix| course.step(ix).gait).max();
    assert!(fastest <= Some(Gait::Walk));
}

#[test]
fn what_a_horse_is_said_to_know_is_asked_for_before_anything_is_begun_where_its_needs_have_shown() {
    let course = course();
    let horse = green(&course, Posture::Steady);
    let standing = horse.standing(date(15));
    let new = |claimed: &[StepIx]| {
        let habits = Habits { claimed: claimed.iter().copied().collect(), ..Habits::default() };
        let all = choices(&standing, &habits).into_iter();
        all.filter(|c| matches!(c.1, Reason::Begin | Reason::Claimed)).collect::<Vec<_>>()
    };
    let usual = new(&[]);
    assert!(usual.len() > 1 && usual.iter().all(|c| c.1 == Reason::Begin));
    let last = usual.last().unwrap().0;
    let claimed = new(&[last]);
    assert_eq!((claimed[0], claimed.len()), ((last, Reason::Claimed), usual.len()), "first of what is new, and once");
    let closed = course.find("T4").unwrap();
    assert_eq!(new(&[closed]), usual, "what it needs has not shown");
    assert_eq!(new(&[course.find("S1").unwrap()]), usual, "that has shown already");
}

#[test]
fn what_lasts_about_a_horse_changes_its_ride() {
    let course = course();
    let horse = green(&course, Posture::Steady);
    let standing = horse.standing(date(15));
    let with = |traits: &[Trait], place| {
        plan(&standing, &Habits::default(), &Conditions { traits: traits.to_vec(), place, ..cool("") })
    };
    let reps = |p: &RidePlan| p.parts.iter().find(|p| p.purpose == Purpose::Main).and_then(|p| p.reps);
    let (usual, quick) = (with(&[], Place::Arena), with(&[Trait::QuickLearner], Place::Arena));
    assert_eq!((reps(&usual), reps(&quick)), (Some(10), Some(8)), "three quarters, rounded up");
    assert!(quick.why.iter().any(|w| w == Trait::QuickLearner.advice()));
    let loosened = |p: &RidePlan| p.parts.iter().filter(|p| p.purpose == Purpose::Loosen).count();
    let (at_home, away) = (with(&[Trait::LooksAbout], Place::Arena), with(&[Trait::LooksAbout], Place::Trail));
    assert!(loosened(&away) >= loosened(&at_home), "longer where it is new");
}

#[test]
fn a_horse_that_answers_before_the_ask_is_set_up_without_going() {
    let course = course();
    let horse = green(&course, Posture::Patient);
    let step = course.find("S4@stand").unwrap();
    let habits = Habits { anticipated: [(step, 3)].into(), ..Habits::default() };
    let plan = plan(&horse.standing(date(15)), &habits, &cool(""));
    let at = plan.parts.iter().position(|p| p.purpose == Purpose::SetUps).unwrap();
    assert!(plan.parts[at].says.contains("3 times lately") && plan.parts[at + 1].purpose == Purpose::Main);
}

#[test]
fn the_trainer_swaps_drops_and_adds() {
    let course = course();
    let horse = green(&course, Posture::Patient);
    let (standing, habits, day) = (horse.standing(date(15)), Habits::default(), cool(""));
    let (s4, g8, s1) = (course.find("S4@stand").unwrap(), course.find("G8@stand").unwrap(), course.find("S1").unwrap());
    let made = |edits: &[Edit]| plan(&standing, &habits, &day).edited(&standing, &habits, &day, edits);
    let swapped = made(&[Edit::Swap { from: s4, to: g8 }]);
    assert_eq!(swapped.subjects().collect::<Vec<_>>(), [g8]);
    assert_eq!(purposes(&swapped).iter().filter(|p| **p == Purpose::Air).count(), 1);
    let dropped = made(&[Edit::Drop(s4), Edit::Drop(s1)]);
    assert_eq!(purposes(&dropped), [Purpose::Ground, Purpose::Loosen, Purpose::Loosen, Purpose::Close]);
    let added = made(&[Edit::Add(g8)]);
    assert_eq!(added.subjects().collect::<Vec<_>>(), [s4, g8]);
    assert_eq!(purposes(&added).last(), Some(&Purpose::Close));
    let loosened = made(&[Edit::Swap { from: s1, to: g8 }]);
    let at = loosened.parts.iter().find(|p| p.step == Some(g8)).unwrap();
    assert_eq!((at.purpose, at.split), (Purpose::Loosen, Some(Split { left: 50, right: 50 })));
}

#[test]
fn musts_come_first_and_only_where_they_apply() {
    let ids = |b: &CheckContext| checks(b).into_iter().map(|c| (c.id, c.must)).collect::<Vec<_>>();
    let plain = CheckContext { today: Some(date(0)), days_ridden: 40, ..CheckContext::default() };
    assert_eq!(ids(&plain), [("one-rein-stop", false), ("tack", false)]);
    let new_bit = CheckContext { bit: Some(Mouthpiece::Leverage), first_day: true, ..plain.clone() };
    assert_eq!(ids(&new_bit)[..2], [("teeth", true), ("first-leverage", true)]);
    let seen = CheckContext { teeth_seen: Some(date(0)), ..new_bit.clone() };
    assert_eq!(ids(&seen)[0], ("first-leverage", true), "teeth were seen today");
    let bosal = CheckContext { bit: Some(Mouthpiece::Bitless), sore_mouth: true, first_day: true, ..plain.clone() };
    assert!(ids(&bosal).iter().all(|(_, must)| !must), "nothing in a sore mouth, nothing to wait for");
    let hot = CheckContext { heat: HeatBand::NoHardWork, sore_mouth: true, ..plain.clone() };
    assert_eq!(ids(&hot)[..2], [("sore-mouth", true), ("heat", true)]);
    let wild = CheckContext {
        days_ridden: 3,
        cattle: true,
        spurs: true,
        unsettled: true,
        fastest: Some(Gait::Lope),
        away: true,
        age: Some(2),
        ..plain
    };
    let all: Vec<&str> = ids(&wild).into_iter().map(|c| c.0).collect();
    assert_eq!(all, ["one-rein-stop", "tack", "someone-about", "cattle", "spurs", "footing", "away"]);
    assert!(checks(&wild).iter().any(|c| c.why == "Young legs: short, straight, few"));
    let road = Ground { place: Place::Outside, surface: Surface::Hard, size: None };
    let hard = CheckContext { ground: Some(road), ..wild };
    assert!(checks(&hard).iter().any(|c| c.why == "Hard ground: no speed, no slides, no rollbacks"));
}

#[test]
fn every_tight_sign_of_the_handbook_is_a_horse_that_is_not_settled() {
    let signs = |all: &[&str]| all.iter().map(|s| (*s).to_owned()).collect::<Vec<_>>();
    // Handbook, section 7: common practice, no published source.
    for tight in ["ears-fixed", "white-eye", "jaw-locked", "tail", "short-breath", "frantic-mouth", "quick-feet"] {
        assert!(is_tight(&signs(&["licks", tight])), "{tight}");
    }
    assert!(!is_tight(&signs(&["licks", "soft-eye", "tired", "sore-mouth"])), "soft and off are not tight");
    assert!(!is_tight(&[]));
}

#[test]
fn a_horse_is_unsettled_by_its_last_day_of_work_and_what_came_since() {
    let (tight, licks) = (vec!["tail".to_owned()], vec!["licks".to_owned()]);
    let unsettled = |signs: &[(u64, &Vec<String>)], worked: &[u64]| {
        is_unsettled(
            signs.iter().map(|(n, tags)| (date(*n), tags.as_slice())),
            worked.iter().map(|n| date(*n)),
            date(10),
        )
    };
    assert!(unsettled(&[(9, &tight)], &[2, 9]));
    assert!(!unsettled(&[(2, &tight), (9, &licks)], &[2, 9]), "it worked well since");
    assert!(unsettled(&[(9, &tight)], &[2, 8]), "seen on a day without work");
    assert!(unsettled(&[(9, &tight)], &[2, 9, 10]), "today's first reps do not make it settled");
    assert!(unsettled(&[(9, &licks), (10, &tight)], &[9]), "seen today");
    assert!(!unsettled(&[], &[]));
    assert!(unsettled(&[(3, &tight)], &[]), "never worked, seen tight");
}

#[test]
fn a_mouth_is_sore_until_someone_has_looked() {
    let (sore, licks) = (vec!["sore-mouth".to_owned()], vec!["licks".to_owned()]);
    let days = [(date(3), sore.as_slice()), (date(5), licks.as_slice())];
    assert!(has_sore_mouth(days, None));
    assert!(has_sore_mouth(days, Some(date(2))), "looked at before it was noted");
    assert!(!has_sore_mouth(days, Some(date(3))), "looked at on the day");
    assert!(!has_sore_mouth([(date(5), licks.as_slice())], None));
}

/// So many asks of both reins on one day, each with the tag of the rein that hung.
fn hung(tags: &[&str]) -> Vec<AskContext> {
    let ask = |tag: &&str| AskContext {
        date: date(13),
        rung: "T2".into(),
        gait: Gait::Walk,
        side: Side::Both,
        place: Place::Arena,
        rider: "Ada".into(),
        bit: None,
        late: false,
        hot: None,
        faults: vec![(*tag).into()],
    };
    tags.iter().map(ask).collect()
}

#[test]
fn the_rein_that_hangs_gets_a_little_more_where_the_sides_are_even() {
    let course = course();
    let mut horse = Advisor::new(&course, Posture::Steady, ModelSettings::default());
    for n in 0..6 {
        horse.watch(&day(n, both(&course, "G7@walk", (6, 3), (6, 3)))).unwrap();
    }
    let main = |tags: &[&str]| {
        let habits = Habits::of(&course, Curriculum::standard(), vec![], &hung(tags), date(14));
        assert!(habits.faulted.is_empty(), "a rein that hangs has the split for a remedy");
        let plan = plan(&horse.standing(date(14)), &habits, &cool(""));
        plan.parts.into_iter().find(|p| p.purpose == Purpose::Main).unwrap()
    };
    let (left, right) = ("hangs-left", "hangs-right");
    assert_eq!(main(&[]).split, Some(Split { left: 50, right: 50 }));
    assert_eq!(main(&[right, right]).split, Some(Split { left: 50, right: 50 }), "twice is too little");
    assert_eq!(main(&[right, left, right, left]).split, Some(Split { left: 50, right: 50 }), "neither mostly");
    let hangs = main(&[right, right, left, right]);
    assert_eq!((hangs.split, hangs.first), (Some(Split { left: 40, right: 60 }), Some(Side::Right)));
    assert!(hangs.says.contains("The right rein hung last in 3 of 4 asks of both"), "{}", hangs.says);
}
