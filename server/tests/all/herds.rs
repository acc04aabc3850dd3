//! The calls on herds of simulated horses whose true state is known: bounds that hold on every kind.

use cavesson::cli::{HerdFigures, herds, judge_herd};
use cavesson_sim::{Herd, KINDS};

#[test]
fn the_calls_keep_their_bounds_on_every_kind_of_herd() {
    let figures: Vec<(&str, HerdFigures)> = std::thread::scope(|scope| {
        let of = |kind| scope.spawn(move || judge_herd(&Herd::of(kind, 40, 11)));
        let running: Vec<_> = KINDS.iter().map(|kind| (kind.name, of(kind))).collect();
        running.into_iter().map(|(name, f)| (name, f.join().unwrap())).collect()
    });
    let (mut losses, mut found) = (0, 0);
    for (name, f) in &figures {
        assert!((0.80..=0.98).contains(&f.cover), "{name}: {f:?}");
        assert!(f.false_advances < 0.15 && f.false_per_100 < 1.0, "{name}: {f:?}");
        losses += f.losses.0;
        found += f.losses.1;
    }
    // Single kinds lose little: how much is found is counted over all.
    assert!(losses > 15 && found * 10 >= losses * 6, "{found} of {losses}: {figures:?}");
    let pain: (usize, usize) = figures.iter().fold((0, 0), |sum, (_, f)| (sum.0 + f.pain.0, sum.1 + f.pain.1));
    assert!(pain.1 <= 2, "of {} horses that were called possible pain, {} had lost nothing there", pain.0, pain.1);
}

#[test]
fn the_table_has_a_line_for_each_kind() {
    let table = herds(2, 1);
    assert!(KINDS.iter().all(|kind| table.contains(kind.name)), "{table}");
}
