//! From what a barn knows to a week to plan. Every figure carries the reason for it.

use super::{Aim, Before, DAYS, Heat, Horse, Ix, Place, Ride, Rider, Span, Week, Work, charge, limits};
use crate::{
    advice::Call,
    ladder::{self, Gait},
    load::{Air, HeatBand},
};

/// What draws a subject into the week.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Pull {
    /// It was owned and is slipping.
    Slipping,
    /// What the record suggests to work next.
    Next,
    /// Under way too.
    UnderWay,
    /// Owned, and due for a few reps.
    Keep,
    /// A day out of the pen.
    Out,
}

/// Something to work on a horse.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Subject {
    /// Id of the step; that of a day out is `out`.
    pub step: String,
    /// In words.
    pub name: String,
    /// At which gait.
    pub gait: Gait,
    /// What draws it.
    pub pull: Pull,
    /// The show that wants it.
    pub aim: Option<Aim>,
}

/// A horse of the string.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Mount {
    /// Its name.
    pub name: String,
    /// Years, where they are known.
    pub age: Option<u32>,
    /// Rides a week that were agreed on, least and most.
    pub agreed: Option<(u8, u8)>,
    /// When it is not there.
    pub away: Vec<Span>,
    /// Who usually rides it.
    pub usual_rider: Option<Ix>,
    /// Rides of each rider on it lately.
    pub rode: Vec<u32>,
    /// A call on the whole horse.
    pub call: Option<Call>,
    /// What there is to work, most wanted first.
    pub subjects: Vec<Subject>,
    /// Rides of the seven days before the week: day -7 to -1, load, and the step where it is one of the subjects.
    pub before: Vec<(i8, u32, Option<String>)>,
}

/// What a barn knows of a week.
#[derive(Debug, Clone, PartialEq)]
pub struct BarnWeek {
    /// Who rides, and when.
    pub riders: Vec<Rider>,
    /// Which of them is a trainer.
    pub trainers: Vec<Ix>,
    /// Where, how many at a time, and when.
    pub places: Vec<(ladder::Place, Place)>,
    /// The string.
    pub horses: Vec<Mount>,
    /// The air of each hour, where it is foreseen.
    pub air: Vec<[Option<Air>; 24]>,
    /// Works that the cattle have left, by day.
    pub cattle: [u16; DAYS],
    /// What the days are called.
    pub day_names: [String; DAYS],
}

/// The figures of a work, in words.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Worth {
    /// What draws it.
    pub pull: Pull,
    /// Why it is worth what it is.
    pub worth: String,
    /// Why so long and so hard.
    pub load: String,
    /// Why so many days between.
    pub gap: Option<String>,
    /// Who may ride it, and why not others.
    pub riders: String,
}

/// A week to plan, with the reasons for its figures.
#[derive(Debug, Clone, PartialEq)]
pub struct Posed {
    /// The week.
    pub week: Week,
    /// For each work: its step, and why it has its figures.
    pub works: Vec<(String, Worth)>,
    /// For each horse: why it has its rides and its limits.
    pub horses: Vec<String>,
}

/// Rides start on the quarter of an hour.
const SLOT: u16 = 15;
/// From this age on a horse is not green for its age alone.
const GREEN_TO: u32 = 3;

impl Pull {
    /// Worth of the first ride in the week, the second and the third (common practice made into figures, no published
    /// source): what is new or lost is worth most, and each further ride of it less.
    const fn worth(self) -> &'static [i64] {
        match self {
            Pull::Slipping => &[24, 16, 9],
            Pull::Next => &[20, 14, 8],
            Pull::UnderWay => &[12, 7],
            Pull::Keep => &[8, 4],
            Pull::Out => &[7],
        }
    }

    const fn says(self) -> &'static str {
        match self {
            Pull::Slipping => "It was owned and is slipping: before anything new",
            Pull::Next => "Next on its ladder",
            Pull::UnderWay => "Under way",
            Pull::Keep => "Owned, and due for a few reps",
            Pull::Out => "A day out keeps it fresh",
        }
    }

    /// The word: `under-way`.
    pub const fn word(self) -> &'static str {
        match self {
            Pull::Slipping => "slipping",
            Pull::Next => "next",
            Pull::UnderWay => "under-way",
            Pull::Keep => "keep",
            Pull::Out => "out",
        }
    }
}

/// Makes the week.
pub fn pose(barn: &BarnWeek, fixed: Vec<Ride>) -> Posed {
    let mut posed = Posed {
        week: Week {
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
        posed.week.horses.push(horse);
        posed.horses.push(why);
        for subject in mount.subjects.iter().filter(|s| allowed(mount, s)) {
            let (work, why) = work(barn, h, mount, subject);
            let ix = posed.week.works.len();
            let mine = mount.before.iter().filter(|b| b.2.as_ref() == Some(&subject.step));
            posed.week.before.extend(mine.map(|&(day, load, _)| Before { work: ix, day, load }));
            posed.week.works.push(work);
            posed.works.push((subject.step.clone(), why));
        }
    }
    posed
}

/// A horse that is to be looked at is not ridden, one to be left alone goes out at the most.
fn allowed(mount: &Mount, subject: &Subject) -> bool {
    match mount.call {
        Some(Call::LookAt) => false,
        Some(Call::LeaveAlone) => matches!(subject.pull, Pull::Out | Pull::Keep),
        _ => true,
    }
}

fn horse(mount: &Mount) -> (Horse, String) {
    let limits = limits(mount.age);
    let young = mount.age.is_some_and(|a| a <= 2);
    let (least, most) = mount.agreed.unwrap_or(if young { (3, 4) } else { (4, 5) });
    let agreed = if mount.agreed.is_some() { "agreed with its owner" } else { "usual" };
    let (least, why) = match mount.call {
        Some(Call::LookAt) => (0, "It is to be looked at before any training: no rides".to_owned()),
        Some(Call::LeaveAlone) => (0, "It is to be left alone: only what it owns, or out".to_owned()),
        _ => (least, format!("{least} to {most} rides a week, {agreed}")),
    };
    let (least, why) = match (DAYS - days_away(mount)) as u8 {
        here if here < least => (here, format!("{why}; {least} cannot be, it is here on {here} days")),
        _ => (least, why),
    };
    let age = mount.age.map_or_else(|| "of unknown age".to_owned(), |a| format!("at {a}"));
    let why = format!("{why}. Load at most {} on two days and {} in the week, {age}", limits.two_days, limits.week);
    let Mount { name, away, .. } = mount;
    (Horse { id: name.clone(), least, most, two_days: limits.two_days, week: limits.week, away: away.clone() }, why)
}

/// Days on which it is not there at all.
fn days_away(mount: &Mount) -> usize {
    (0..DAYS as u8).filter(|&d| mount.away.iter().any(|s| s.day == d && s.from == 0 && s.to == 24 * 60)).count()
}

fn work(barn: &BarnWeek, h: Ix, mount: &Mount, subject: &Subject) -> (Work, Worth) {
    let charge = charge(subject.gait, mount.age);
    let ladder = if subject.pull == Pull::Out { 'O' } else { subject.step.chars().next().unwrap_or('S') };
    let (gap_days, gap) = match (ladder, subject.pull) {
        ('C' | 'P', _) => (3, Some("Cattle, flag and pattern are not drilled: three days between")),
        (_, Pull::Keep | Pull::Out) => (3, Some("A few reps now and then keep it: three days between")),
        (_, Pull::UnderWay) => (2, Some("Something else the day between, so that it does not drill")),
        _ => (1, None),
    };
    let (riders, who) = riders(barn, mount);
    let plain = subject.pull.worth();
    let (worth, for_show) = match &subject.aim {
        Some(aim) => aim.weigh(plain),
        None => (plain.to_vec(), String::new()),
    };
    let cows = u16::from(ladder == 'C' && !["C1", "C2", "C3"].contains(&step_rung(&subject.step)));
    let work = Work {
        id: format!("{}: {}", mount.name, subject.name),
        horse: h,
        minutes: charge.total,
        load: charge.load,
        places: places(barn, ladder, subject.gait),
        riders,
        worth,
        gap_days,
        cows,
    };
    let m = charge.minutes;
    let gaits = [(m.stand, "standing"), (m.walk, "walk"), (m.jog, "jog"), (m.lope, "lope"), (m.run, "run")];
    let gaits: Vec<String> = gaits.iter().filter(|g| g.0 > 0).map(|(n, g)| format!("{n} {g}")).collect();
    let why = Worth {
        pull: subject.pull,
        worth: [subject.pull.says(), &for_show].map(str::trim).join(". ").trim_end_matches(". ").to_owned(),
        load: format!("{} minutes: {}. Minutes × intensity make {}", charge.total, gaits.join(", "), charge.load),
        gap: gap.map(str::to_owned),
        riders: who,
    };
    (work, why)
}

fn step_rung(step: &str) -> &str {
    step.split('@').next().unwrap_or(step)
}

/// Where a ladder is worked: starts in the round pen or the arena, obstacles and days out beyond it, the rest in the arena.
fn places(barn: &BarnWeek, ladder: char, gait: Gait) -> Vec<Ix> {
    use ladder::Place::{Arena, Outside, RoundPen, Trail};
    let wanted: &[ladder::Place] = match ladder {
        'O' => &[Outside, Trail],
        'G' | 'S' | 'B' => &[RoundPen, Arena],
        'T' | 'R' if gait <= Gait::Jog => &[RoundPen, Arena],
        _ => &[Arena],
    };
    (0..barn.places.len()).filter(|&p| wanted.contains(&barn.places[p].0)).collect()
}

/// Who may ride a horse, and what that costs: its usual rider nothing, who rode it lately little. A green horse is ridden only
/// by those it knows and by a trainer.
fn riders(barn: &BarnWeek, mount: &Mount) -> (Vec<(Ix, i64)>, String) {
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
            (_, 0) => "never rode it lately".to_owned(),
            (_, n) => format!("rode it {n} times lately"),
        };
        format!("{} {why} ({})", barn.riders[r].id, if cost == 0 { "free".to_owned() } else { format!("-{cost}") })
    };
    let mut says = all.iter().map(told).collect::<Vec<_>>().join("; ");
    if all.len() < barn.riders.len() {
        says.push_str(". Green: only those it knows, and a trainer");
    }
    (all, says)
}

/// The hours in which only so much is ridden, by the bands of °F + %RH; hours alike that follow each other are one.
fn heat(air: &[[Option<Air>; 24]]) -> Vec<Heat> {
    let most = |air: Option<Air>| match air.map(Air::band) {
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
