//! What a draw is worth, and whether it keeps the rules.

use super::{Draw, Go};

/// What a problem comes to, looked up instead of worked out.
#[derive(Debug)]
pub(super) struct Tables<'a> {
    pub(super) draw: &'a Draw,
    /// By horse and slot: whether it may be there.
    there: Vec<Vec<bool>>,
    /// By horse, cow and the cow's goes before: whether they fit.
    pub(super) fits: Vec<Vec<Vec<bool>>>,
    /// By horse: the horses that come after it, as bits.
    followers: Vec<u64>,
    /// By horse: the cows that fit it at some time.
    pub(super) cows_of: Vec<Vec<u8>>,
}

/// Room for working out a value, kept between two of them.
#[derive(Debug, Clone)]
pub(super) struct Scratch {
    last: Vec<u16>,
    works: Vec<u8>,
    goes: Vec<u8>,
}

impl<'a> Tables<'a> {
    pub(super) fn of(draw: &'a Draw) -> Tables<'a> {
        let helped = |slot: u16| draw.helper.iter().any(|span| span.has(slot));
        let fits = |h: &super::DrawHorse, c: usize, k: usize| {
            let cow = &draw.cows[c];
            h.manners.contains(&cow.manner)
                && !h.not.contains(&c)
                && (h.speed[0]..=h.speed[1]).contains(&cow.speed[k])
                && f64::from(cow.honour[k]) >= h.least_honour
        };
        let fits: Vec<Vec<Vec<bool>>> = draw
            .horses
            .iter()
            .map(|h| (0..draw.cows.len()).map(|c| (0..draw.cows[c].room()).map(|k| fits(h, c, k)).collect()).collect())
            .collect();
        let mut followers = vec![0_u64; draw.horses.len()];
        for (h, horse) in draw.horses.iter().enumerate() {
            horse.after.iter().for_each(|before| followers[*before] |= 1 << h);
        }
        let cows_of = fits
            .iter()
            .map(|cows: &Vec<Vec<bool>>| {
                let some = cows.iter().enumerate().filter(|(_, by_goes)| by_goes.contains(&true));
                some.filter_map(|(c, _)| u8::try_from(c).ok()).collect()
            })
            .collect();
        let there = draw
            .horses
            .iter()
            .map(|h| (1..=draw.slots).map(|slot| h.there.has(slot) && (!h.helper || helped(slot))).collect())
            .collect();
        Tables { draw, there, fits, followers, cows_of }
    }

    pub(super) fn scratch(&self) -> Scratch {
        let (cows, horses) = (self.draw.cows.len(), self.draw.horses.len());
        Scratch { last: vec![0; cows], works: vec![0; cows], goes: vec![0; horses] }
    }

    /// Whether horses may go so, whatever the cows: there, in visits, with a pause between two horses and each after those that it
    /// comes after.
    pub(super) fn in_order(&self, goes: &[Option<Go>]) -> bool {
        let mut order = Order::default();
        goes.iter().enumerate().all(|(at, go)| go.is_none_or(|go| order.takes(self, at, go.horse.into())))
    }

    /// What goes are worth; none where a rule is broken.
    pub(super) fn value(&self, goes: &[Option<Go>], scratch: &mut Scratch) -> Option<i64> {
        scratch.works.fill(0);
        scratch.goes.fill(0);
        let (mut order, mut brought, mut value) = (Order::default(), 0, 0);
        for (at, go) in goes.iter().enumerate() {
            let Some(Go { horse, cow }) = *go else { continue };
            let (h, c) = (usize::from(horse), usize::from(cow));
            if !order.takes(self, at, h) {
                return None;
            }
            let (of_horse, of_cow) = (&self.draw.horses[h], &self.draw.cows[c]);
            let slot = at as u16 + 1;
            let k = usize::from(scratch.works[c]);
            if k == 0 {
                brought += 1;
                if brought > self.draw.bring || slot < of_cow.from {
                    return None;
                }
            } else if slot - scratch.last[c] <= of_cow.rest {
                return None;
            }
            if !self.fits[h][c].get(k).is_some_and(|fits| *fits) {
                return None;
            }
            value += of_horse.worth.get(usize::from(scratch.goes[h]))?;
            value -= of_horse.loss * (1000 - i64::from(of_cow.honour[k])) + of_cow.cost;
            scratch.goes[h] += 1;
            scratch.works[c] += 1;
            scratch.last[c] = slot;
        }
        Some(value)
    }
}

/// Who went so far.
#[derive(Debug, Default)]
struct Order {
    visited: u64,
    now: Option<usize>,
    last: usize,
}

impl Order {
    /// Takes the next go; false where it breaks a rule.
    fn takes(&mut self, tables: &Tables<'_>, at: usize, horse: usize) -> bool {
        if !tables.there[horse][at] {
            return false;
        }
        if self.now != Some(horse) {
            let again = self.visited & (1 << horse) != 0;
            let too_soon = self.now.is_some() && at - self.last <= usize::from(tables.draw.change);
            if again || too_soon || self.visited & tables.followers[horse] != 0 {
                return false;
            }
            self.visited |= 1 << horse;
            self.now = Some(horse);
        }
        self.last = at;
        true
    }
}
