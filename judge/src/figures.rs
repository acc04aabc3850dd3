use std::ops::Range;

use cavesson_core::curriculum::{Side, StepIx};

use crate::{Called, Calls, Family, Tally};

/// How much under its standard a share is wrong to advance on, and lost.
const UNDER: f64 = 0.05;
/// Sessions with reps under the standard from which on a loss counts.
const COUNTS: usize = 4;

/// Sessions within which a horse that fell off on one side is to be called.
const SOON: usize = 6;

/// How calls did on a family.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub struct Figures {
    /// First advances.
    pub advances: usize,
    /// Share of them made while the true share was more than 0.05 under the standard.
    pub false_advances: f64,
    /// Sessions between being ready and the first advance.
    pub sessions_lost: f64,
    /// Entries that say back, from the first advance on.
    pub backs: usize,
    /// Share of them said while the true share was at the standard or over.
    pub false_backs: f64,
    /// Those to a hundred entries of owned sides.
    pub false_per_100: f64,
    /// Losses that count.
    pub losses: usize,
    /// How many of them were called back.
    pub found: usize,
    /// Sessions of work on the side before a loss that is found was called.
    pub delay: f64,
    /// Sessions of work on the side for which a call back stayed, once what was lost had come back.
    pub stays: f64,
}

/// How calls of possible pain did on a family.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct PainFigures {
    /// Horses and sides that were called.
    pub called: usize,
    /// How many of them had lost nothing there.
    pub wrong: usize,
    /// Horses that lost a side all at once and were ridden on at least two of its rungs soon after: one rung alone is training,
    pub fell: usize,
    /// and how many of those were called within six sessions.
    pub found: usize,
    /// Sessions in all.
    pub sessions: usize,
}

/// A loss of a side, with whether it ended before the log did.
struct Loss {
    sessions: Range<usize>,
    ended: bool,
}

fn part(some: usize, all: usize) -> f64 {
    some as f64 / all.max(1) as f64
}

impl Figures {
    /// Holds calls against the truth.
    ///
    /// ```
    /// use cavesson_core::{advice::Posture, belief::ModelSettings};
    /// use cavesson_judge::{Family, Figures, tally};
    /// let family = Family::of_kind(&cavesson_sim::KINDS[0], 2, 1);
    /// let said = tally(&family, Posture::Steady, &ModelSettings::default());
    /// assert!(Figures::of(&family, &said.calls).false_advances <= 1.0);
    /// ```
    pub fn of(family: &Family, calls: &Calls) -> Figures {
        let mut f = Figures::default();
        advances(family, calls, &mut f);
        backs(family, calls, &mut f);
        f
    }
}

impl PainFigures {
    /// Holds calls of possible pain against the truth.
    pub fn of(family: &Family, tally: &Tally) -> PainFigures {
        let wrong = tally.pain.iter().filter(|&(&(horse, side), &at)| !fell(family, horse, side, at)).count();
        let sessions = family.herd.horses.iter().map(|h| h.days.len()).sum();
        let fell = family.herd.horses.iter().enumerate().filter_map(|(horse, h)| Some((horse, h.fell?)));
        let fell = fell.filter(|&(horse, (side, after))| shows(family, horse, side, after));
        let called = |&(horse, (side, after)): &(usize, (Side, usize))| {
            tally.pain.get(&(horse, side)).is_some_and(|at| (after..=after + SOON).contains(at))
        };
        let found = fell.clone().filter(called).count();
        PainFigures { called: tally.pain.len(), wrong, fell: fell.count(), found, sessions }
    }
}

fn advances(family: &Family, calls: &Calls, f: &mut Figures) {
    let (mut wrong, mut lost, mut ever) = (0, 0, 0);
    for (horse, of) in family.herd.horses.iter().enumerate() {
        for (&(step, side), shares) in &of.truth {
            let wanted = family.standard(step);
            let first = calls.get(&(horse, step, side)).and_then(|c| c.first);
            if let Some(share) = first.and_then(|s| shares[s]) {
                f.advances += 1;
                wrong += usize::from(share < wanted - UNDER);
            }
            if let Some(ready) = shares.iter().position(|s| s.is_some_and(|s| s >= wanted)) {
                ever += 1;
                lost += first.unwrap_or(of.days.len()).saturating_sub(ready);
            }
        }
    }
    f.false_advances = part(wrong, f.advances);
    f.sessions_lost = part(lost, ever);
}

fn backs(family: &Family, calls: &Calls, f: &mut Figures) {
    let (mut wrong, mut owned, mut delay, mut stays, mut ended) = (0, 0, 0, 0, 0);
    for (&(horse, step, side), called) in calls {
        let Some(first) = called.first else { continue };
        let wanted = family.standard(step);
        for (session, share) in family.truth(horse, step, side).iter().enumerate().skip(first) {
            let well = share.is_some_and(|s| s >= wanted);
            let said = called.back.contains(&session);
            owned += usize::from(well);
            f.backs += usize::from(said);
            wrong += usize::from(well && said);
        }
        let ridden = family.ridden(horse, step, side);
        let rides_in = |r: Range<usize>| ridden.iter().filter(|s| r.contains(s)).count();
        for Loss { sessions: Range { start, end }, ended: over } in losses(family, (horse, step, side), first, &ridden)
        {
            f.losses += 1;
            let Some(&said) = called.back.range(start..end).next() else { continue };
            f.found += 1;
            delay += rides_in(start..said);
            if over {
                ended += 1;
                let until = (end..).find(|s| !called.back.contains(s)).unwrap_or(end);
                stays += rides_in(end..until);
            }
        }
    }
    f.false_backs = part(wrong, f.backs);
    f.false_per_100 = 100.0 * part(wrong, owned);
    f.delay = part(delay, f.found);
    f.stays = part(stays, ended);
}

/// The losses of a side after its first advance that count.
fn losses(family: &Family, (horse, step, side): (usize, StepIx, Side), first: usize, ridden: &[usize]) -> Vec<Loss> {
    let (wanted, shares) = (family.standard(step), family.truth(horse, step, side));
    let (mut out, mut ready, mut since) = (vec![], false, None);
    for (session, share) in shares.iter().enumerate() {
        let Some(share) = *share else { continue };
        if share >= wanted {
            out.extend(since.take().map(|from| Loss { sessions: from..session, ended: true }));
            ready = true;
        } else if since.is_none() && ready && session > first && share < wanted - UNDER {
            since = Some(session);
        }
    }
    out.extend(since.map(|from| Loss { sessions: from..shares.len(), ended: false }));
    let under = |s: &usize| shares[*s].is_some_and(|share| share < wanted - UNDER);
    out.retain(|l| ridden.iter().filter(|s| l.sessions.contains(s) && under(s)).count() >= COUNTS);
    out
}

/// Whether at least two rungs of a side were ridden soon after a session that had been ridden on three days before.
fn shows(family: &Family, horse: usize, side: Side, after: usize) -> bool {
    const USUAL: usize = 3;
    let sides = family.herd.horses[horse].truth.keys().filter(|key| key.1 == side);
    let shown = sides.filter(|key| {
        let ridden = family.ridden(horse, key.0, side);
        let before = ridden.iter().filter(|s| **s <= after).count();
        before >= USUAL && ridden.iter().any(|s| (after + 1..=after + SOON).contains(s))
    });
    shown.count() >= 2
}

/// Whether a side did less well on a session than some sessions before, on all that it had been ridden on.
fn fell(family: &Family, horse: usize, side: Side, session: usize) -> bool {
    const BEFORE: usize = 12;
    let before = session.saturating_sub(BEFORE);
    let truth = &family.herd.horses[horse].truth;
    let sides = truth.iter().filter(|((_, s), shares)| *s == side && shares[before].is_some());
    let fell = sides.map(|(_, shares)| shares[before].unwrap_or_default() - shares[session].unwrap_or_default());
    let fell: Vec<f64> = fell.collect();
    !fell.is_empty() && fell.iter().sum::<f64>() / fell.len() as f64 > UNDER
}

/// The calls on one side, for a rule of thumb.
pub(crate) fn called(first: Option<usize>, back: impl IntoIterator<Item = usize>) -> Called {
    Called { first, back: back.into_iter().collect() }
}
