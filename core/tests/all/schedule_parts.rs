//! The planner's small parts by themselves: a day as bits, and the filling of a day.

// Compiled with this program, since they are nobody else's; what only the planner uses is not used here.
#[allow(dead_code)]
#[path = "../../src/schedule/search/bits.rs"]
mod bits;
#[path = "../../src/schedule/search/knapsack.rs"]
mod knapsack;

use bits::{count, fill, longest, nth, runs, touching_after, touching_before};
use knapsack::{Item, Knapsack};

fn of(bits: &[usize]) -> Vec<u64> {
    let mut out = vec![0; 3];
    bits.iter().for_each(|&b| fill(&mut out, b, b + 1));
    out
}

#[test]
fn runs_are_found_across_words() {
    let mut day = vec![0; 3];
    fill(&mut day, 60, 75);
    fill(&mut day, 127, 130);
    let mut of_ten = day.clone();
    runs(&mut of_ten, 10);
    assert_eq!(of_ten, of(&[60, 61, 62, 63, 64, 65]));
    runs(&mut day, 1);
    assert_eq!(count(&day), 18);
    assert_eq!((longest(day.into_iter()), longest([u64::MAX, 1].into_iter()), longest([0].into_iter())), (15, 65, 0));
}

#[test]
fn ends_that_touch_are_told() {
    let mut free = vec![0; 3];
    fill(&mut free, 62, 70);
    let mut starts = free.clone();
    runs(&mut starts, 3);
    let mut out = vec![];
    touching_before(&starts, &free, &mut out);
    assert_eq!(out, of(&[62]));
    touching_after(&starts, &free, 3, &mut out);
    assert_eq!(out, of(&[67]));
    assert_eq!((nth(&starts, 2), nth(&starts, 6)), (Some(64), None));
}

/// The best by trying every way of every item.
fn by_force(items: &[Item], horses: &[(usize, usize)], long: usize, short: usize) -> f32 {
    let Some((&(from, to), rest)) = horses.split_first() else { return 0.0 };
    let mut best = by_force(items, rest, long, short);
    for i in &items[from..to] {
        if i.units <= long {
            best = best.max(i.worth + by_force(items, rest, long - i.units, short));
        }
        if i.units <= short {
            best = best.max(i.worth + by_force(items, rest, long, short - i.units));
        }
    }
    best
}

#[test]
fn a_day_is_filled_as_well_as_can_be() {
    let mut seed = 1_u32;
    let mut next = |most: u32| {
        seed = seed.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
        (seed >> 16) % most
    };
    for _ in 0..200 {
        let long = 1 + next(9) as usize;
        let short = next(1 + long as u32) as usize;
        let mut knapsack = Knapsack::default();
        for work in 0..6 {
            let from = knapsack.items.len();
            for _ in 0..=next(2) {
                let units = 1 + next(4) as usize;
                if units <= long {
                    knapsack.items.push(Item { work, worth: (1 + next(20)) as f32, units });
                }
            }
            if knapsack.items.len() > from {
                knapsack.horses.push((from, knapsack.items.len()));
            }
        }
        knapsack.fill(long, short);
        assert_eq!(
            knapsack.worth[long * (short + 1) + short],
            by_force(&knapsack.items, &knapsack.horses, long, short)
        );
        let mut once = knapsack.chosen.clone();
        once.dedup();
        assert_eq!(once.len(), knapsack.chosen.len(), "each horse once");
    }
}
