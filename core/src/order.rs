//! Draws whose order a horse cannot learn: what came before after the same two is made less likely each time.

use std::collections::BTreeMap;

use rand::RngExt;
use rand_chacha::ChaCha8Rng;

/// What followed the same two before comes less often by the square of one more than this times that. Assumed.
const SHY: f64 = 2.0;

/// How often each came after two others.
pub(crate) struct Order<T>(BTreeMap<(T, T), BTreeMap<T, f64>>);

impl<T: Copy + Ord> Order<T> {
    /// Of rows that came before, each in order.
    pub(crate) fn of<'a>(rows: impl IntoIterator<Item = &'a [T]>) -> Order<T>
    where
        T: 'a,
    {
        let mut order = Order(BTreeMap::new());
        rows.into_iter().for_each(|row| order.note(row));
        order
    }

    /// Notes what followed what in a row.
    pub(crate) fn note(&mut self, row: &[T]) {
        for three in row.windows(3) {
            *self.0.entry((three[0], three[1])).or_default().entry(three[2]).or_default() += 1.0;
        }
    }

    /// How likely each may come after a row, as weights: those given, less what followed its last two before.
    pub(crate) fn weights(&self, row: &[T], given: impl IntoIterator<Item = (T, f64)>) -> Vec<(T, f64)> {
        let after = match row {
            [.., a, b] => self.0.get(&(*a, *b)),
            _ => None,
        };
        let seen = |next: &T| after.and_then(|after| after.get(next)).copied().unwrap_or(0.0);
        given.into_iter().map(|(it, weight)| (it, weight / (1.0 + SHY * seen(&it)).powi(2))).collect()
    }
}

/// One of some, as likely as its weight says; none of none.
pub(crate) fn drawn<T: Copy>(weights: &[(T, f64)], rng: &mut ChaCha8Rng) -> Option<T> {
    let sum: f64 = weights.iter().map(|(_, weight)| weight).sum();
    let mut left = if sum > 0.0 { rng.random_range(0.0..sum) } else { 0.0 };
    let next = weights.iter().find(|(_, weight)| {
        left -= weight;
        left < 0.0
    });
    next.or(weights.last()).map(|(it, _)| *it)
}

/// How hard a draw is to guess, bits.
pub(crate) fn entropy<T>(weights: &[(T, f64)]) -> f64 {
    let sum: f64 = weights.iter().map(|(_, weight)| weight).sum();
    let bits = |weight: f64| if weight > 0.0 { weight / sum * (weight / sum).log2() } else { 0.0 };
    -weights.iter().map(|(_, weight)| bits(*weight)).sum::<f64>()
}
