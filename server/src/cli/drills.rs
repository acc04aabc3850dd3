//! `cavesson drills`: drills from the maker against the same moves in a fixed order, on simulated horses that guess.

use std::fmt::Write;

use cavesson_sim::{DrillOrder, DrillTaken, drilled};

/// How readily a horse goes on what it has noted.
const KINDS: [(&str, f64); 4] =
    [("waits for the ask", 0.0), ("guesses a little", 0.1), ("guesses", 0.2), ("guesses much", 0.4)];

/// The table.
pub fn drills(horses: u32, seed: u64) -> String {
    let mut out = format!(
        "{horses} simulated horses of each kind, a drill of five minutes a day until every move is right eight times in ten\n\n{:<20}{:<14}{:>8}{:>8}{:>22}\n",
        "horse", "order", "there", "asks", "rehearsed wrong"
    );
    for (name, guesses) in KINDS {
        for (order, how) in [(DrillOrder::Made, "as drawn"), (DrillOrder::Fixed, "always same")] {
            let taken: Vec<DrillTaken> = (0..u64::from(horses)).map(|n| drilled(order, guesses, seed + n)).collect();
            let mean = |of: fn(&DrillTaken) -> usize| taken.iter().map(of).sum::<usize>() as f64 / f64::from(horses);
            let there = 100.0 * mean(|it| usize::from(it.there));
            let _ = writeln!(
                out,
                "{name:<20}{how:<14}{there:>7.0}%{:>8.0}{:>22.1}",
                mean(|it| it.reps),
                mean(|it| it.wrong)
            );
        }
    }
    out
}
