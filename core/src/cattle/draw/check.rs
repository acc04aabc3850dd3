//! A draw that was changed by hand: which rules it breaks.

use super::{Draw, Goes};

/// A rule that a go breaks: its slot, counted from 0, and what is wrong in words.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Broken {
    pub slot: usize,
    pub why: String,
}

impl Draw {
    /// Every rule that goes break, in order of slots; nothing where they keep all of them. There are as many as slots, of horses and cows
    /// that there are.
    pub fn broken(&self, goes: &Goes) -> Vec<Broken> {
        let mut found = vec![];
        let mut seen: Vec<(usize, usize, usize)> = vec![];
        for (slot, go) in goes.iter().enumerate() {
            let Some(go) = go else { continue };
            let (horse, cow) = (usize::from(go.horse), usize::from(go.cow));
            let mut say = |why: &str| found.push(Broken { slot, why: why.to_owned() });
            self.horse_rules(slot, horse, &seen, &mut say);
            self.cow_rules(slot, horse, cow, &seen, &mut say);
            seen.push((slot, horse, cow));
        }
        found
    }

    fn horse_rules(&self, slot: usize, horse: usize, seen: &[(usize, usize, usize)], say: &mut impl FnMut(&str)) {
        let of = &self.horses[horse];
        let number = slot as u16 + 1;
        if !of.there.has(number) {
            say("the horse is not there yet, or no longer");
        }
        if of.helper && !self.helper.iter().any(|span| span.has(number)) {
            say("this horse needs a helper, and there is none then");
        }
        let mine = seen.iter().filter(|(_, h, _)| *h == horse).count();
        if mine >= of.worth.len() {
            say("this horse has had its goes");
        }
        match seen.last() {
            Some((_, last, _)) if *last != horse && mine > 0 => say("the goes of a horse follow each other"),
            Some((at, last, _)) if *last != horse && slot - at <= self.change.into() => {
                say("horses change here: leave a slot between them");
            }
            _ => {}
        }
        let early =
            |(h, other): (usize, &super::DrawHorse)| other.after.contains(&horse) && seen.iter().any(|s| s.1 == h);
        if self.horses.iter().enumerate().any(early) {
            say("another horse waits for this one, and went before it");
        }
    }

    fn cow_rules(
        &self,
        slot: usize,
        horse: usize,
        cow: usize,
        seen: &[(usize, usize, usize)],
        say: &mut impl FnMut(&str),
    ) {
        let (of, with) = (&self.horses[horse], &self.cows[cow]);
        let before: Vec<usize> = seen.iter().filter(|(_, _, c)| *c == cow).map(|(at, ..)| *at).collect();
        let brought: std::collections::HashSet<usize> = seen.iter().map(|(_, _, c)| *c).chain([cow]).collect();
        if brought.len() > self.bring && before.is_empty() {
            say("that is one cow more than are brought up");
        }
        if before.last().is_some_and(|last| slot - last <= with.rest.into()) || slot as u16 + 1 < with.from {
            say("the cow rests between two works");
        }
        if before.len() >= with.room() {
            say("the cow has no works left today");
            return;
        }
        if !of.manners.contains(&with.manner) || of.not.contains(&cow) {
            say("this kind of cow does not suit what the horse is on");
        }
        if !(of.speed[0]..=of.speed[1]).contains(&with.speed[before.len()]) {
            say("the cow is faster than this horse holds");
        }
        if f64::from(with.honour[before.len()]) < of.least_honour {
            say("the cow honours too few turns for this horse");
        }
    }
}
