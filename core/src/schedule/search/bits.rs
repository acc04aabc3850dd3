//! A day as bits, one a unit of time.

/// The lowest `units` bits of a day, all set.
pub(super) fn full(units: usize) -> Vec<u64> {
    let mut out = vec![0; units.div_ceil(64)];
    fill(&mut out, 0, units);
    out
}

pub(super) fn fill(day: &mut [u64], from: usize, to: usize) {
    (from..to).for_each(|i| day[i / 64] |= 1 << (i % 64));
}

pub(super) fn clear(day: &mut [u64], from: usize, to: usize) {
    (from..to).for_each(|i| day[i / 64] &= !(1 << (i % 64)));
}

pub(super) fn any(day: &[u64], from: usize, to: usize) -> bool {
    (from..to).any(|i| day[i / 64] >> (i % 64) & 1 == 1)
}

/// The word `w` of a day moved `by` bits down: bit i is what bit i + by was.
fn down(day: &[u64], w: usize, by: usize) -> u64 {
    let (skip, shift) = (by / 64, by % 64);
    let low = day.get(w + skip).copied().unwrap_or(0);
    if shift == 0 {
        return low;
    }
    low >> shift | day.get(w + skip + 1).copied().unwrap_or(0) << (64 - shift)
}

/// Keeps the bits behind which `length` bits in a row are set, counting from the bit itself.
pub(super) fn runs(day: &mut [u64], length: usize) {
    let mut have = 1;
    while have < length {
        let by = have.min(length - have);
        // A word takes only from itself and from later ones, so that going up keeps what is still needed.
        for w in 0..day.len() {
            day[w] &= down(day, w, by);
        }
        have += by;
    }
}

/// Of some starts of rides that last `length`: those that begin where the unit before is not free.
pub(super) fn touching_before(starts: &[u64], free: &[u64], out: &mut Vec<u64>) {
    out.clear();
    let mut carry = 0;
    for (s, f) in starts.iter().zip(free) {
        out.push(s & !(f << 1 | carry));
        carry = f >> 63;
    }
}

/// Of some starts of rides that last `length`: those whose end meets a unit that is not free.
pub(super) fn touching_after(starts: &[u64], free: &[u64], length: usize, out: &mut Vec<u64>) {
    out.clear();
    out.extend((0..starts.len()).map(|w| starts[w] & !down(free, w, length)));
}

/// The longest row of bits that are set.
pub(super) fn longest(day: impl Iterator<Item = u64>) -> u16 {
    let (mut run, mut best) = (0, 0);
    for mut word in day {
        let mut left = 64;
        while left > 0 {
            let ones = word.trailing_ones().min(left);
            run += ones;
            best = best.max(run);
            left -= ones;
            if left == 0 {
                break;
            }
            run = 0;
            word = word.checked_shr(ones).unwrap_or(0);
            let zeros = word.trailing_zeros().min(left);
            left -= zeros;
            word = word.checked_shr(zeros).unwrap_or(0);
        }
    }
    best as u16
}

pub(super) fn count(day: &[u64]) -> u32 {
    day.iter().map(|w| w.count_ones()).sum()
}

/// The place of the `n`th bit that is set.
pub(super) fn nth(day: &[u64], mut n: u32) -> Option<usize> {
    for (w, &word) in day.iter().enumerate() {
        let ones = word.count_ones();
        if n < ones {
            let mut word = word;
            (0..n).for_each(|_| word &= word - 1);
            return Some(w * 64 + word.trailing_zeros() as usize);
        }
        n -= ones;
    }
    None
}
