//! From what a barn knows to a week to plan. Every figure carries the reason for it.

use super::{
    barn::{BarnWeek, HorseContext, Motive, PlanningProblem, Subject, WorkReasons},
    ride_load::{LoadLimits, load_limits, ride_load},
};
use crate::{
    advice::Call,
    curriculum::{Gait, WorkNeeds},
    load::{HeatBand, Weather},
    schedule::{Before, DAYS, Heat, Horse, Ix, Ride, Span, WeekProblem, Work},
};

/// Rides start on the quarter of an hour.
const SLOT: u16 = 15;
/// From this age on a horse is not green for its age alone.
const GREEN_TO: u32 = 3;

/// Makes the week.
pub fn build_problem(barn: &BarnWeek, fixed: Vec<Ride>) -> PlanningProblem {
    let mut planning = PlanningProblem {
        week: WeekProblem {
            slot_minutes: SLOT,
            riders: barn.riders.clone(),
            places: barn.places.iter().map(|(_, p)| p.clone()).collect(),
            horses: vec![],
            works: vec![],
            heat: heat(&barn.air),
            cows: barn.cattle,
            before: vec![],
            day_names: barn.day_names.clone(),
            fixed,
        },
        works: vec![],
        horses: vec![],
    };
    for (h, mount) in barn.horses.iter().enumerate() {
        let (horse, why) = horse(mount);
        planning.week.horses.push(horse);
        planning.horses.push(why);
        for subject in mount.subjects.iter().filter(|s| allowed(mount, s)) {
            let (work, why) = work(barn, h, mount, subject);
            let ix = planning.week.works.len();
            let mine = mount.before.iter().filter(|b| b.2.as_ref() == Some(&subject.step));
            planning.week.before.extend(mine.map(|&(day, load, _)| Before { work: ix, day, load }));
            planning.week.works.push(work);
            planning.works.push((subject.step.clone(), why));
        }
    }
    planning
}

/// A horse that is to be looked at is not ridden, one to be left alone goes out at the most. One on its way back does what it owned, no
/// faster than on the first day of the week.
fn allowed(mount: &HorseContext, subject: &Subject) -> bool {
    if let Some(back) = mount.comeback {
        let owned = matches!(subject.motive, Motive::Slipping | Motive::Keep | Motive::Out);
        return owned && back.stage.fastest().is_some_and(|fastest| subject.gait <= fastest);
    }
    match mount.call {
        Some(Call::LookAt) => false,
        Some(Call::LeaveAlone) => matches!(subject.motive, Motive::Out | Motive::Keep),
        _ => true,
    }
}

fn horse(mount: &HorseContext) -> (Horse, String) {
    let back = mount.comeback.map_or(100, |back| back.load_percent);
    let usual = load_limits(mount.age);
    let load_limits = LoadLimits { two_days: usual.two_days * back / 100, week: usual.week * back / 100 };
    let young = mount.age.is_some_and(|a| a <= 2);
    let (least, most) = mount.agreed.unwrap_or(if young { (3, 4) } else { (4, 5) });
    let agreed = if mount.agreed.is_some() { "agreed with its owner" } else { "usual" };
    let (least, why) = match mount.call {
        Some(Call::LookAt) => (0, "It is to be looked at before any training: no rides".to_owned()),
        Some(Call::LeaveAlone) => (0, "It is to be left alone: only what it owns, or out".to_owned()),
        _ if mount.comeback.is_some_and(|back| back.stage.fastest().is_none()) => (0, "Nobody rides it yet".to_owned()),
        _ => (least, format!("{least} to {most} rides a week, {agreed}")),
    };
    let (least, why) = match (DAYS - days_away(mount)) as u8 {
        here if here < least => (here, format!("{why}; {least} cannot be, it is here on {here} days")),
        _ => (least, why),
    };
    let age = mount.age.map_or_else(|| "of unknown age".to_owned(), |a| format!("at {a} years"));
    let back = mount.comeback.map_or_else(String::new, |back| format!(". {} when the week begins", back.in_words()));
    let why = format!(
        "{why}{back}. Load at most {} on two days and {} in the week, {age}",
        load_limits.two_days, load_limits.week
    );
    let HorseContext { name, away, .. } = mount;
    (
        Horse {
            id: name.clone(),
            least,
            most,
            two_days: load_limits.two_days,
            week: load_limits.week,
            away: away.clone(),
        },
        why,
    )
}

/// Days on which it is not there at all.
fn days_away(mount: &HorseContext) -> usize {
    (0..DAYS as u8).filter(|&d| mount.away.iter().any(|s| s.day == d && s.from == 0 && s.to == 24 * 60)).count()
}

fn work(barn: &BarnWeek, h: Ix, mount: &HorseContext, subject: &Subject) -> (Work, WorkReasons) {
    let ride_load = ride_load(subject.gait, mount.age);
    let (gap_days, gap) = gap(subject);
    let (riders, who) = riders(barn, mount);
    let plain = subject.motive.worth();
    let (worth, for_show) = match &subject.aim {
        Some(aim) => aim.weigh(plain),
        None => (plain.to_vec(), String::new()),
    };
    let work = Work {
        id: format!("{}: {}", mount.name, subject.name),
        horse: h,
        minutes: ride_load.total,
        load: ride_load.load,
        places: places(barn, &subject.work, subject.gait),
        riders,
        worth,
        gap_days,
        cows: subject.work.cattle,
    };
    let m = ride_load.minutes;
    let gaits = [(m.stand, "standing"), (m.walk, "walk"), (m.jog, "jog"), (m.lope, "lope"), (m.run, "run")];
    let gaits: Vec<String> = gaits.iter().filter(|g| g.0 > 0).map(|(n, g)| format!("{n} {g}")).collect();
    let why = WorkReasons {
        motive: subject.motive,
        worth: [subject.motive.says(), &for_show].map(str::trim).join(". ").trim_end_matches(". ").to_owned(),
        load: format!("{} minutes: {}. Minutes × intensity make {}", ride_load.total, gaits.join(", "), ride_load.load),
        gap,
        riders: who,
    };
    (work, why)
}

/// Days between two rides of a subject, and why: what the rung asks for, and what its motive does (common practice, no published
/// source).
fn gap(subject: &Subject) -> (u8, Option<String>) {
    let needed = subject.work.days_between;
    let (gap, why) = match subject.motive {
        Motive::Keep | Motive::Out => (3, "A few reps now and then keep it: three days between"),
        Motive::UnderWay => (2, "Something else the day between, so that it does not drill"),
        Motive::Slipping | Motive::Next => (1, ""),
    };
    match needed {
        needed if subject.work.is_spared() && needed >= gap => {
            (needed, Some(format!("It is not drilled: {needed} days between")))
        }
        _ => (gap, Some(why.to_owned()).filter(|why| !why.is_empty())),
    }
}

/// The places of the barn where it can be worked.
fn places(barn: &BarnWeek, needs: &WorkNeeds, gait: Gait) -> Vec<Ix> {
    (0..barn.places.len()).filter(|&p| needs.fits(barn.places[p].0, gait)).collect()
}

/// Who may ride a horse, and what that costs: its usual rider nothing, who rode it lately little. A green horse is ridden only
/// by those it knows and by a trainer.
fn riders(barn: &BarnWeek, mount: &HorseContext) -> (Vec<(Ix, i64)>, String) {
    let green = mount.age.is_some_and(|a| a <= GREEN_TO);
    let rode = |r: Ix| mount.rode.get(r).copied().unwrap_or(0);
    let cost = |r: Ix| match rode(r) {
        _ if mount.usual_rider == Some(r) => Some(0),
        n if n >= 5 => Some(1),
        1.. => Some(2),
        0 if barn.trainers.contains(&r) => Some(3),
        0 if green => None,
        0 => Some(4),
    };
    let all: Vec<(Ix, i64)> = (0..barn.riders.len()).filter_map(|r| Some((r, cost(r)?))).collect();
    let told = |&(r, cost): &(Ix, i64)| {
        let why = match (mount.usual_rider == Some(r), rode(r)) {
            (true, _) => "usually rides it".to_owned(),
            (_, 0) => "has not ridden it lately".to_owned(),
            (_, n) => format!("rode it {n} times lately"),
        };
        format!("{} {why} ({})", barn.riders[r].id, if cost == 0 { "free".to_owned() } else { format!("costs {cost}") })
    };
    let mut says = all.iter().map(told).collect::<Vec<_>>().join("; ");
    if all.len() < barn.riders.len() {
        says.push_str(". Young: only trainers and those it knows");
    }
    (all, says)
}

/// The hours in which only so much is ridden, by the bands of °F + %RH; hours alike that follow each other are one.
fn heat(air: &[[Option<Weather>; 24]]) -> Vec<Heat> {
    let most = |air: Option<Weather>| match air.map(Weather::band) {
        Some(HeatBand::Care) => Some(60),
        Some(HeatBand::NoHardWork) => Some(25),
        _ => None,
    };
    let mut out: Vec<Heat> = vec![];
    for (day, hours) in air.iter().enumerate().take(DAYS) {
        for (hour, air) in hours.iter().enumerate() {
            let Some(most_load) = most(*air) else { continue };
            let span = Span { day: day as u8, from: 60 * hour as u16, to: 60 * (hour as u16 + 1) };
            match out.last_mut() {
                Some(h) if (h.span.day, h.span.to, h.most_load) == (span.day, span.from, most_load) => {
                    h.span.to = span.to;
                }
                _ => out.push(Heat { span, most_load }),
            }
        }
    }
    out
}
