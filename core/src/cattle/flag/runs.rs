//! Where a thing runs and where it does not, roughly: what the halts between are then fitted from.

use super::trace::Trace;

/// Seconds between the moments at which the speed is looked at.
const STEP: f64 = 0.03;

/// Going one way without a break.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Rough {
    pub from: f64,
    pub to: f64,
    /// 1 to the right, -1 to the left.
    pub way: f64,
    /// Feet.
    pub feet: f64,
    /// When it was fastest, and how fast, feet a second.
    pub peak: (f64, f64),
}

/// How closely a trace is looked at.
#[derive(Debug, Clone, Copy)]
pub(super) struct Looked {
    /// Seconds on either side that a speed is taken from.
    pub reach: f64,
    /// A run is faster than this somewhere, and lasts while it is faster than half of it, feet a second.
    pub fast: f64,
    /// A run is longer than this, feet.
    pub least: f64,
}

/// The runs of a trace, in order.
pub(super) fn runs(trace: &Trace, look: Looked) -> Vec<Rough> {
    let (Some(first), Some(last)) = (trace.points.first(), trace.points.last()) else { return vec![] };
    let steps = ((last.0 - first.0) / STEP) as usize;
    let seen: Vec<(f64, f64, f64)> = (0..=steps)
        .filter_map(|n| {
            let t = first.0 + n as f64 * STEP;
            trace.at(t, look.reach).map(|(x, v)| (t, x, v))
        })
        .collect();
    let mut found: Vec<Rough> = vec![];
    let mut begin = 0;
    while begin < seen.len() {
        let way = seen[begin].2.signum();
        let end = begin + seen[begin..].iter().take_while(|s| s.2 * way > look.fast / 2.0).count();
        if end == begin {
            begin += 1;
            continue;
        }
        let stretch = &seen[begin..end];
        let peak =
            stretch.iter().map(|s| (s.0, s.2.abs())).fold((0.0, 0.0), |a: (f64, f64), b| if b.1 > a.1 { b } else { a });
        let feet = (stretch[stretch.len() - 1].1 - stretch[0].1).abs();
        if peak.1 > look.fast && feet > look.least {
            found.push(Rough { from: stretch[0].0, to: stretch[stretch.len() - 1].0, way, feet, peak });
        }
        begin = end;
    }
    found
}
