//! From a barn to a week: what is asked for, what it is worth, who may ride it, and why.

use cavesson_core::{
    advice::{Call, Status},
    curriculum::{self, Curriculum, Gait, WorkNeeds},
    load::Weather,
    schedule::{
        Aim, AppointmentKind, BarnWeek, Effort, HorseContext, Motive, Outlook, Pace, Place, PlanningProblem, Rider,
        Span, StepFacts, Subject, Want, breaks, build_problem, could_wait, load_limits, plan, ride_load, subjects,
        usual_hours, warning, without,
    },
};

fn all_week(from: u16, to: u16) -> Vec<Span> {
    (0..7).map(|day| Span { day, from: 60 * from, to: 60 * to }).collect()
}

/// What working a step of the curriculum takes; a day out is none of its steps.
fn needs_of(step: &str) -> WorkNeeds {
    let shipped = Curriculum::standard();
    let rung = shipped.rung(step.split('@').next().unwrap());
    rung.map_or_else(WorkNeeds::outing, |rung| shipped.work_needs(rung).clone())
}

fn subject(step: &str, gait: Gait, motive: Motive) -> Subject {
    Subject { step: step.into(), name: step.to_lowercase(), gait, motive, aim: None, work: needs_of(step) }
}

fn mount(name: &str, age: Option<u32>, subjects: Vec<Subject>) -> HorseContext {
    HorseContext {
        name: name.into(),
        age,
        agreed: None,
        away: vec![],
        usual_rider: Some(1),
        rode: vec![0, 20, 3],
        call: None,
        comeback: None,
        subjects,
        before: vec![],
    }
}

/// A trainer, the usual rider, someone who rode it now and then, and someone new; all four places; one horse.
fn barn(horses: Vec<HorseContext>) -> BarnWeek {
    let rider = |id: &str| Rider { id: id.into(), hours: all_week(7, 12) };
    let place = |p: curriculum::Place| (p, Place { id: p.word().into(), at_once: 2, hours: all_week(6, 20) });
    BarnWeek {
        riders: ["trainer", "usual", "sometimes", "new"].map(rider).to_vec(),
        trainers: vec![0],
        places: curriculum::Place::ALL.map(place).to_vec(),
        horses,
        air: vec![],
        cattle: [0, 4, 0, 0, 4, 0, 0],
        day_names: cavesson_core::schedule::WeekProblem::numbered_days(),
    }
}

fn planning(mount: HorseContext) -> PlanningProblem {
    build_problem(&barn(vec![mount]), vec![])
}

#[test]
fn what_slips_is_worth_most_and_each_further_ride_less() {
    let all = [Motive::Slipping, Motive::Next, Motive::UnderWay, Motive::Keep, Motive::Out];
    let subjects = all.iter().enumerate().map(|(n, &p)| subject(&format!("S{n}"), Gait::Walk, p)).collect();
    let p = planning(mount("Wren", Some(6), subjects));
    let first: Vec<i64> = p.week.works.iter().map(|w| w.worth[0]).collect();
    assert!(first.is_sorted_by(|a, b| a > b), "{first:?}");
    assert!(p.week.works.iter().all(|w| w.worth.is_sorted_by(|a, b| a > b)));
    assert!(p.works[0].1.worth.contains("slipping") && p.works.iter().all(|(_, w)| w.load.contains("minutes")));
}

#[test]
fn loads_are_minutes_times_intensity_and_young_legs_carry_less() {
    // 15 walk, 15 jog, 10 standing: 15 × 1 + 15 × 3 (session load, Foster 1998; memory).
    let jog = ride_load(Gait::Jog, Some(8));
    assert_eq!((jog.total, jog.load), (40, 60));
    let gaits = Gait::ALL.map(|g| ride_load(g, Some(8)).load);
    assert!(gaits.is_sorted(), "{gaits:?}");
    for age in 2..12 {
        assert!(ride_load(Gait::Lope, Some(age)).load <= ride_load(Gait::Lope, Some(age + 1)).load);
        let (young, older) = (load_limits(Some(age)), load_limits(Some(age + 1)));
        assert!(young.two_days <= older.two_days && young.week <= older.week);
        // Two hard days never follow each other, whatever the age.
        assert!(2 * ride_load(Gait::Lope, Some(age)).load > young.two_days, "at {age}");
    }
    assert_eq!(load_limits(None), load_limits(Some(12)));
}

#[test]
fn a_green_horse_is_ridden_by_those_it_knows_and_a_trainer() {
    let of = |age| planning(mount("Tansy", Some(age), vec![subject("S1", Gait::Stand, Motive::Next)]));
    let (green, grown) = (of(2), of(7));
    assert_eq!(green.week.works[0].riders, [(0, 3), (1, 0), (2, 2)]);
    assert_eq!(grown.week.works[0].riders, [(0, 3), (1, 0), (2, 2), (3, 4)]);
    assert!(green.works[0].1.riders.contains("usual usually rides it (free)"));
    assert!(green.works[0].1.riders.contains("Young") && !grown.works[0].1.riders.contains("Young"));
}

/// A ladder of a barn's own: its rungs are treated by what they say of themselves, as those that ship are.
#[test]
fn a_barns_own_cattle_rung_takes_cows_and_is_not_drilled() {
    let work =
        WorkNeeds { cattle: 2, days_between: 4, places: vec![curriculum::Place::Outside], ..WorkNeeds::default() };
    let own = Subject { work, ..subject("X1", Gait::Jog, Motive::Next) };
    let p = planning(mount("Copper", Some(9), vec![own]));
    let it = &p.week.works[0];
    assert_eq!((it.cows, it.gap_days, p.week.places[it.places[0]].id.as_str()), (2, 4, "outside"));
    assert_eq!(p.works[0].1.gap.as_deref(), Some("It is not drilled: 4 days between"));
    let rides = plan(&p.week, Effort { seed: 1, rounds: 2 }, &mut |_| Some(Pace::FULL));
    assert!(!rides.is_empty() && rides.iter().all(|r| r.day == 1 || r.day == 4), "only on days with cows: {rides:?}");
}

#[test]
fn cattle_and_pattern_are_not_drilled_and_flags_take_no_cows() {
    let steps = ["C5@walk", "C1@jog", "P3@jog", "T2@walk", "O2@walk"];
    let subjects = steps.iter().map(|s| subject(s, Gait::Walk, Motive::Next)).collect();
    let p = planning(mount("Copper", Some(9), subjects));
    let told: Vec<(u8, u16)> = p.week.works.iter().map(|w| (w.gap_days, w.cows)).collect();
    assert_eq!(told, [(3, 1), (3, 0), (3, 0), (1, 0), (1, 0)]);
    let places = |n: usize| p.week.works[n].places.iter().map(|&i| p.week.places[i].id.as_str()).collect::<Vec<_>>();
    assert_eq!(
        (places(0), places(3), places(4)),
        (vec!["arena"], vec!["round-pen", "arena"], vec!["outside", "trail"])
    );
}

#[test]
fn a_horse_to_be_looked_at_is_not_ridden_and_one_to_be_left_alone_goes_out() {
    let subjects = vec![subject("S1", Gait::Walk, Motive::Next), subject("out", Gait::Walk, Motive::Out)];
    let with = |call| planning(HorseContext { call: Some(call), ..mount("Wren", Some(5), subjects.clone()) });
    let (look, alone) = (with(Call::LookAt), with(Call::LeaveAlone));
    assert!(look.week.works.is_empty() && look.week.horses[0].least == 0);
    assert!(look.horses[0].contains("looked at"));
    assert_eq!(alone.works.iter().map(|(s, _)| s.as_str()).collect::<Vec<_>>(), ["out"]);
}

#[test]
fn heat_closes_hours_by_its_bands_and_neighbours_are_one() {
    let mut barn = barn(vec![]);
    let mut day = [None; 24];
    for (hour, celsius) in [(12, 28.0), (13, 29.0), (14, 34.0), (16, 20.0)] {
        day[hour] = Weather::new(celsius, 78.0).ok();
    }
    barn.air = vec![[None; 24], day];
    let heat = build_problem(&barn, vec![]).week.heat;
    // At 78 %, 28 and 29 °C are a temperature-humidity index of 79.4 and 81.0 and a sum over 150, care by both; 34 °C is an index
    // of 89.0, no hard work (Livestock Weather Safety Index; memory).
    let told: Vec<(u8, u16, u16, u32)> =
        heat.iter().map(|h| (h.span.day, h.span.from, h.span.to, h.most_load)).collect();
    assert_eq!(told, [(1, 12 * 60, 14 * 60, 60), (1, 14 * 60, 15 * 60, 25)]);
}

#[test]
fn a_posed_week_can_be_planned_and_the_week_before_counts() {
    let mut horse = mount("Pilgrim", Some(7), vec![subject("C5@walk", Gait::Walk, Motive::Next)]);
    horse.before = vec![(-1, 40, Some("C5@walk".into())), (-3, 40, None)];
    let p = planning(horse);
    assert_eq!(p.week.before.len(), 1);
    let rides = plan(&p.week, Effort { seed: 1, rounds: 2 }, &mut |_| Some(Pace::FULL));
    assert_eq!(breaks(&p.week, &rides), vec![]);
    // Cattle are there on days 1 and 4; day 1 is too soon after the day before the week.
    assert_eq!(rides.iter().map(|r| r.day).collect::<Vec<_>>(), [4]);
}

#[test]
fn whole_days_away_leave_fewer_rides_to_ask_for() {
    let away = |day| Span { day, from: 0, to: 24 * 60 };
    let mut horse = mount("Marlow", Some(8), vec![subject("S1", Gait::Walk, Motive::Next)]);
    horse.agreed = Some((4, 5));
    horse.away = (0..5).map(away).collect();
    // The farrier's hour takes no day.
    horse.away.push(Span { day: 5, from: 9 * 60, to: 10 * 60 });
    let p = planning(horse);
    assert_eq!((p.week.horses[0].least, p.week.horses[0].most), (2, 5));
    assert!(p.horses[0].contains("4 cannot be"), "{}", p.horses[0]);
}

#[test]
fn a_show_draws_what_more_work_can_still_decide() {
    let aim = |chance| Aim { show: "the spring show".into(), days: 35, chance };
    let worth = |chance| {
        let wanted = Subject { aim: Some(aim(chance)), ..subject("S1", Gait::Walk, Motive::Next) };
        let p = planning(mount("Wren", Some(6), vec![wanted]));
        (p.week.works[0].worth.clone(), p.works[0].1.worth.clone())
    };
    let plain =
        planning(mount("Wren", Some(6), vec![subject("S1", Gait::Walk, Motive::Next)])).week.works[0].worth.clone();
    assert_eq!(worth(Some(95)).0, plain);
    assert_eq!(worth(Some(5)).0, plain);
    assert_eq!(worth(None).0, plain);
    let (more, why) = worth(Some(50));
    assert!(more.iter().zip(&plain).all(|(m, p)| m > p) && more.is_sorted_by(|a, b| a >= b), "{more:?}");
    assert!(why.contains("in 5 weeks") && why.contains("50 %"), "{why}");
    assert!(worth(Some(5)).1.contains("will not see it"));
}

#[test]
fn a_show_that_cannot_be_met_is_told_with_what_to_drop() {
    let want =
        |name: &str, standing, chance| Want { name: name.into(), outlook: Outlook::of(standing, chance), chance };
    let safe = [want("stop", Status::Owned, None), want("back", Status::Learning, Some(80))];
    assert_eq!(warning(&safe, &["cow"]), None);
    let late = [want("spin", Status::Learning, Some(12)), want("change", Status::Untried, None)];
    let told = warning(&late, &["flag"]).unwrap();
    assert!(told.contains("spin, change will not be owned") && told.contains("flag could wait"), "{told}");
    assert!(warning(&[want("spin", Status::Learning, Some(50))], &[]).unwrap().contains("hangs in the balance"));
}

fn facts(step: &str, status: Status) -> StepFacts {
    StepFacts {
        step: step.into(),
        name: step.into(),
        gait: Gait::Walk,
        status,
        call: None,
        open: true,
        due: false,
        aim: None,
        work: needs_of(step),
    }
}

#[test]
fn what_slips_comes_before_what_is_next_and_a_show_before_what_else_is_under_way() {
    let aim = Some(Aim { show: "show".into(), days: 30, chance: Some(40) });
    let steps = [
        facts("S1", Status::Owned),
        facts("S2", Status::Learning),
        facts("S3", Status::Learning),
        facts("S4", Status::Slipping),
        StepFacts { open: false, ..facts("S5", Status::Learning) },
        StepFacts { aim: aim.clone(), ..facts("S6", Status::Untried) },
        StepFacts { aim, open: false, ..facts("S7", Status::Untried) },
        StepFacts { due: true, ..facts("S8", Status::Owned) },
        StepFacts { call: Some(Call::Back), ..facts("S9", Status::Learning) },
    ];
    let drawn: Vec<(String, Motive)> =
        subjects(&steps, Some("S3"), None).into_iter().map(|s| (s.step, s.motive)).collect();
    let told: Vec<(&str, Motive)> = drawn.iter().map(|(s, p)| (s.as_str(), *p)).collect();
    let expected = [
        ("S4", Motive::Slipping),
        ("S3", Motive::Next),
        ("S6", Motive::UnderWay),
        ("S2", Motive::UnderWay),
        ("S8", Motive::Keep),
        ("out", Motive::Out),
    ];
    assert_eq!(told, expected);
    // A horse that owns what it was taught keeps the last of it, and goes out.
    let finished = [facts("S1", Status::Owned), facts("T3", Status::Owned)];
    let drawn: Vec<String> = subjects(&finished, None, None).into_iter().map(|s| s.step).collect();
    assert_eq!(drawn, ["T3", "out"]);
}

#[test]
fn what_a_show_does_not_rest_on_could_wait_for_it_two_at_most_and_nothing_that_is_stuck() {
    let learning = |step: &str| facts(step, Status::Learning);
    let steps = [
        facts("owned", Status::Owned),
        StepFacts { open: false, ..learning("closed") },
        StepFacts { call: Some(Call::Back), ..learning("going back") },
        learning("wanted"),
        learning("flag"),
        learning("rollback"),
        learning("trail"),
    ];
    assert_eq!(could_wait(&steps, |s| s.step == "wanted"), ["flag", "rollback"]);
    assert_eq!(could_wait(&steps[..4], |s| s.step == "wanted"), Vec::<&str>::new());
}

#[test]
fn what_takes_days_in_a_row_and_is_no_show_is_a_lay_up() {
    for kind in AppointmentKind::ALL {
        assert_eq!(kind.over_days(1), kind);
        let several = if kind == AppointmentKind::Show { kind } else { AppointmentKind::LayUp };
        assert_eq!(kind.over_days(3), several);
    }
}

#[test]
fn appointments_are_told_apart_by_their_words() {
    let all = [
        ("Farrier: Juniper, Biscuit", AppointmentKind::Farrier),
        ("reset shoes", AppointmentKind::Farrier),
        ("Teeth floated", AppointmentKind::Dentist),
        ("Vet, spring vaccinations", AppointmentKind::Vet),
        ("Show at the county grounds", AppointmentKind::Show),
        ("Juniper lay-up", AppointmentKind::LayUp),
        ("owner visit", AppointmentKind::Owner),
        // Words inside other words do not count.
        ("corvettes and snowshowers", AppointmentKind::Other),
        ("hay delivery", AppointmentKind::Other),
    ];
    for (text, kind) in all {
        assert_eq!(AppointmentKind::guessed(text), kind, "{text}");
    }
    for kind in AppointmentKind::ALL {
        assert_eq!(kind.word().parse(), Ok(kind));
    }
}

#[test]
fn what_a_stretch_leaves_of_another() {
    let span = |from, to| Span { day: 2, from, to };
    let cut = |gone| without(span(420, 720), gone);
    assert_eq!(cut(span(500, 560)), [span(420, 500), span(560, 720)]);
    assert_eq!(cut(span(400, 500)), [span(500, 720)]);
    assert_eq!(cut(span(0, 1440)), []);
    assert_eq!(cut(span(720, 800)), [span(420, 720)]);
    assert_eq!(cut(Span { day: 3, from: 0, to: 1440 }), [span(420, 720)]);
    assert!(usual_hours().iter().all(|s| s.day < 6));
}
