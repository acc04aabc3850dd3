//! `cavesson herds`: how the calls do on herds of simulated horses whose true state is known, kind by kind.

use std::{
    collections::{BTreeMap, BTreeSet},
    fmt::Write as _,
};

use cavesson_core::{
    advice::{Advisor, Call, HorseRecord, Posture, SideCall, replay_barn},
    belief::ModelSettings,
    curriculum::{Side, StepIx},
};
use cavesson_sim::{Herd, HerdHorse, KINDS};

/// How much under its standard a share is wrong to advance on, and lost.
const UNDER: f64 = 0.05;
/// Sessions with reps under the standard from which on a loss counts.
const COUNTS: usize = 4;

/// How the calls did on one herd.
#[derive(Debug, Clone, Copy, Default)]
pub struct HerdFigures {
    /// Mean logarithmic loss of the probability of being ready.
    pub log_loss: f64,
    /// How often the 90 % interval holds the true share.
    pub cover: f64,
    /// Share of first advances made while the true share was more than 0.05 under the standard.
    pub false_advances: f64,
    /// Sessions between being ready and the first advance.
    pub sessions_lost: f64,
    /// Share of backs said while the true share was at the standard or over.
    pub false_backs: f64,
    /// Those to a hundred entries of owned sides.
    pub false_per_100: f64,
    /// Losses that count, and how many of them were called back.
    pub losses: (usize, usize),
    /// Horses that were called possible pain, and how many of those had lost nothing on that side.
    pub pain: (usize, usize),
}

/// The table of every kind of herd, with this many horses of each.
pub fn herds(horses: u32, seed: u64) -> String {
    let mut table = String::new();
    let _ = writeln!(
        table,
        "{:<10}{:>9}{:>8}{:>9}{:>11}{:>12}{:>9}{:>13}{:>14}",
        "", "log loss", "holds", "false", "days lost", "false backs", "per 100", "losses found", "pain (false)"
    );
    for kind in &KINDS {
        let f = judge_herd(&Herd::of(kind, horses, seed));
        let _ = writeln!(
            table,
            "{:<10}{:>9.4}{:>7.1}%{:>8.1}%{:>11.2}{:>11.1}%{:>9.2}{:>13}{:>14}",
            kind.name,
            f.log_loss,
            100.0 * f.cover,
            100.0 * f.false_advances,
            f.sessions_lost,
            100.0 * f.false_backs,
            f.false_per_100,
            format!("{} of {}", f.losses.1, f.losses.0),
            format!("{} ({})", f.pain.0, f.pain.1),
        );
    }
    table
}

/// What was called on one side, session by session.
#[derive(Default)]
struct Called {
    first: Option<usize>,
    back: BTreeSet<usize>,
}

type Key = (usize, StepIx, Side);

/// Runs the calls on a herd and holds them against the truth.
///
/// ```
/// use cavesson::cli::judge_herd;
/// use cavesson_sim::{Herd, KINDS};
/// let figures = judge_herd(&Herd::of(&KINDS[0], 2, 1));
/// assert!((0.0..=1.0).contains(&figures.cover) && figures.log_loss > 0.0);
/// ```
pub fn judge_herd(herd: &Herd) -> HerdFigures {
    let settings = ModelSettings::default();
    let advisor = Advisor::new(&herd.course, Posture::Steady, settings);
    let records = herd.horses.iter().map(|h| HorseRecord { advisor: advisor.clone(), days: &h.days });
    let mut called: BTreeMap<Key, Called> = BTreeMap::new();
    let (mut loss, mut held, mut entries) = (0.0, 0.0, 0.0);
    let mut pain: BTreeMap<(usize, Side), usize> = BTreeMap::new();
    replay_barn(&settings, &mut records.collect::<Vec<_>>(), |horse, session, advisor| {
        let day = herd.horses[horse].days[session].date;
        let seen: Vec<(StepIx, Side)> = advisor.observer().seen().collect();
        for (step, side) in seen {
            let Some(call) = advisor.side(step, side, day) else { continue };
            let share = truth(&herd.horses[horse], step, side, session);
            let (entry_loss, holds) = entry(&call, share, standard(herd, step));
            loss += entry_loss;
            held += f64::from(u8::from(holds));
            entries += 1.0;
            let called = called.entry((horse, step, side)).or_default();
            match call.call {
                Call::Advance => drop(called.first.get_or_insert(session)),
                Call::Back => drop(called.back.insert(session)),
                _ => {}
            }
        }
        if let Some(found) = advisor.pain(day) {
            pain.entry((horse, found.side)).or_insert(session);
        }
    });
    let mut f = HerdFigures { log_loss: loss / entries, cover: held / entries, ..HerdFigures::default() };
    advances(herd, &called, &mut f);
    backs(herd, &called, &mut f);
    f.pain = (pain.len(), pain.iter().filter(|((h, side), at)| !fell(herd, *h, *side, **at)).count());
    f
}

fn standard(herd: &Herd, step: StepIx) -> f64 {
    herd.course.step(step).standard.share.fraction()
}

fn truth(horse: &HerdHorse, step: StepIx, side: Side, session: usize) -> f64 {
    horse.truth.get(&(step, side)).and_then(|shares| shares[session]).unwrap_or_default()
}

fn entry(call: &SideCall, share: f64, standard: f64) -> (f64, bool) {
    let ready = call.belief.ready.clamp(1e-4, 1.0 - 1e-4);
    let loss = if share >= standard { -ready.ln() } else { -(1.0 - ready).ln() };
    (loss, call.belief.share.low <= share && share <= call.belief.share.high)
}

fn part(some: usize, all: usize) -> f64 {
    some as f64 / all.max(1) as f64
}

fn advances(herd: &Herd, called: &BTreeMap<Key, Called>, f: &mut HerdFigures) {
    let (mut made, mut wrong, mut lost, mut ever) = (0, 0, 0, 0);
    for (&(horse, step, side), called) in called {
        let (of, wanted) = (&herd.horses[horse], standard(herd, step));
        let at = |session: usize| truth(of, step, side, session);
        if let Some(first) = called.first {
            made += 1;
            wrong += usize::from(at(first) < wanted - UNDER);
        }
        if let Some(ready) = (0..of.days.len()).find(|&s| at(s) >= wanted) {
            ever += 1;
            lost += called.first.unwrap_or(of.days.len()).saturating_sub(ready);
        }
    }
    f.false_advances = part(wrong, made);
    f.sessions_lost = part(lost, ever);
}

fn backs(herd: &Herd, called: &BTreeMap<Key, Called>, f: &mut HerdFigures) {
    let (mut said, mut wrong, mut owned) = (0, 0, 0);
    for (&(horse, step, side), called) in called {
        let Some(first) = called.first else { continue };
        let (of, wanted) = (&herd.horses[horse], standard(herd, step));
        for session in first..of.days.len() {
            let well = truth(of, step, side, session) >= wanted;
            owned += usize::from(well);
            said += usize::from(called.back.contains(&session));
            wrong += usize::from(well && called.back.contains(&session));
        }
        for (from, to) in losses(of, step, side, wanted, first) {
            f.losses.0 += 1;
            f.losses.1 += usize::from(called.back.range(from..to).next().is_some());
        }
    }
    f.false_backs = part(wrong, said);
    f.false_per_100 = 100.0 * part(wrong, owned);
}

/// The losses of a side after its first advance: from which session to which.
fn losses(horse: &HerdHorse, step: StepIx, side: Side, wanted: f64, first: usize) -> Vec<(usize, usize)> {
    let rode = |session: usize| horse.days[session].work.iter().any(|w| w.step == step && w.side == side);
    let (mut out, mut ready, mut since) = (vec![], false, None);
    let counts = |from: usize, to: usize| {
        (from..to).filter(|&s| rode(s) && truth(horse, step, side, s) < wanted - UNDER).count() >= COUNTS
    };
    for session in 0..horse.days.len() {
        let share = truth(horse, step, side, session);
        if share >= wanted {
            out.extend(since.take().map(|from| (from, session)));
            ready = true;
        } else if since.is_none() && ready && session > first && share < wanted - UNDER {
            since = Some(session);
        }
    }
    out.extend(since.map(|from| (from, horse.days.len())));
    out.retain(|&(from, to)| counts(from, to));
    out
}

/// Whether a side did less well on a session than some sessions before, on all that it had been ridden on.
fn fell(herd: &Herd, horse: usize, side: Side, session: usize) -> bool {
    const BEFORE: usize = 12;
    let of = &herd.horses[horse];
    let before = session.saturating_sub(BEFORE);
    let sides = of.truth.iter().filter(|((_, s), shares)| *s == side && shares[before].is_some());
    let fell = sides.map(|(_, shares)| shares[before].unwrap_or_default() - shares[session].unwrap_or_default());
    let fell: Vec<f64> = fell.collect();
    !fell.is_empty() && fell.iter().sum::<f64>() / fell.len() as f64 > UNDER
}
