use std::collections::{BTreeMap, BTreeSet};

use cavesson_core::{
    advice::{Advisor, Call, HorseRecord, Posture, SideCall, replay_barn},
    belief::ModelSettings,
    curriculum::{Side, StepIx},
};

use crate::Family;

/// What was called on one side.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Called {
    /// The session of the first advance.
    pub first: Option<usize>,
    /// The sessions that ended with a call back.
    pub back: BTreeSet<usize>,
}

/// What was called: by horse, step and side.
pub type Calls = BTreeMap<(usize, StepIx, Side), Called>;

/// What the application said of a family.
#[derive(Debug, Clone)]
pub struct Tally {
    /// Its calls.
    pub calls: Calls,
    /// Mean logarithmic loss of the probability of being ready.
    pub log_loss: f64,
    /// How often the 90 % interval holds the true share, 0 to 1.
    pub cover: f64,
    /// Horses and sides that were called possible pain, with the first session of it.
    pub pain: BTreeMap<(usize, Side), usize>,
}

/// Takes a family through its weeks as the server and `cavesson decide` do, and keeps what is said after each session.
pub fn tally(family: &Family, posture: Posture, settings: &ModelSettings) -> Tally {
    let advisor = Advisor::new(&family.herd.course, posture, *settings);
    let records = family.herd.horses.iter().map(|h| HorseRecord { follower: advisor.clone(), days: &h.days[..] });
    let (mut calls, mut pain) = (Calls::new(), BTreeMap::new());
    let (mut loss, mut held, mut entries) = (0.0, 0.0, 0.0);
    replay_barn(settings, &mut records.collect::<Vec<_>>(), |horse, session, advisor| {
        let day = family.herd.horses[horse].days[session].date;
        for (step, side) in advisor.observer().seen() {
            let Some(call) = advisor.side(step, side, day) else { continue };
            let share = family.truth(horse, step, side)[session].unwrap_or_default();
            loss += log_loss(&call, share >= family.standard(step));
            held += f64::from(u8::from(call.belief.share.low <= share && share <= call.belief.share.high));
            entries += 1.0;
            let called: &mut Called = calls.entry((horse, step, side)).or_default();
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
    Tally { calls, log_loss: loss / entries, cover: held / entries, pain }
}

fn log_loss(call: &SideCall, ready: bool) -> f64 {
    const CLIP: f64 = 1e-4;
    let said = call.belief.ready.clamp(CLIP, 1.0 - CLIP);
    if ready { -said.ln() } else { -(1.0 - said).ln() }
}
