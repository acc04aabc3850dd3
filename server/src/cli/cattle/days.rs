//! `cavesson cattle-days`: ways of drawing cows on simulated horses and cows, within the same limits of the herd.

use std::{fmt::Write, thread};

use cavesson_judge::{CattleResult, Drawn, HOLDS, cattle_days as run};

/// Barns of four horses that each way is tried on.
const BARNS: u64 = 40;

fn sum(way: Drawn) -> CattleResult {
    (0..BARNS).map(|seed| run(way, seed)).fold(CattleResult::default(), |a, b| CattleResult {
        horses: a.horses + b.horses,
        there: a.there + b.there,
        works: a.works + b.works,
        lost: a.lost + b.lost,
        off: a.off + b.off,
    })
}

/// The table.
pub fn cattle_days() -> String {
    let mut out = format!(
        "{} simulated green horses on herds of twenty, 150 days, three a week with cattle, until a horse holds four turns in five both ways \
         at {HOLDS} ft/s\n\n",
        4 * BARNS
    );
    let _ = writeln!(
        out,
        "{:<22}{:>8}{:>16}{:>18}{:>16}",
        "cows", "there", "works a horse", "lost a horse", "limit off, ft/s"
    );
    let found: Vec<CattleResult> = thread::scope(|scope| {
        let threads: Vec<_> = Drawn::ALL.iter().map(|way| scope.spawn(|| sum(*way))).collect();
        threads.into_iter().filter_map(|thread| thread.join().ok()).collect()
    });
    for (way, of) in Drawn::ALL.iter().zip(&found) {
        let each = |n: usize| n as f64 / of.horses as f64;
        let _ = writeln!(
            out,
            "{:<22}{:>7.0}%{:>16.1}{:>18.1}{:>16.2}",
            way.name(),
            100.0 * each(of.there),
            each(of.works),
            each(of.lost),
            of.off / (2 * of.horses) as f64
        );
    }
    out
}
