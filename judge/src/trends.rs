use cavesson_core::ride::{AskTrend, Odds, ask_trend};
use cavesson_sim::{AskedRide, KINDS, asked_rides};

/// Odds that are told apart: from, and up to.
const BINS: [(f64, f64); 4] = [(0.5, 0.65), (0.65, 0.75), (0.75, 0.9), (0.9, 1.01)];

/// How often a change that was said with some odds was there.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub struct TrendBin {
    /// The odds said: from, and up to.
    pub odds: (f64, f64),
    /// How often they were said.
    pub said: usize,
    /// Their mean.
    pub mean: f64,
    /// How often the change was there.
    pub there: usize,
}

/// How changes from ask to ask were told on simulated rides: of seconds, of weight, and of the answer.
pub fn trends(rides: u32, seed: u64) -> [(&'static str, Vec<TrendBin>); 3] {
    let all: Vec<AskedRide> = KINDS.iter().flat_map(|kind| asked_rides(kind, rides, seed)).collect();
    type Read = fn(&AskedRide) -> (Option<Odds>, f64);
    let reads: [(&'static str, Read); 3] = [
        ("sooner or later", |r| (ask_trend(&r.reps).seconds, -r.seconds)),
        ("lighter or heavier", |r| (ask_trend(&r.reps).weight, -r.weight)),
        ("more or less of it", |r| (ask_trend(&r.reps).answer, r.nearer)),
    ];
    let mut little = AskTrend::LITTLE.into_iter();
    reads.map(|(name, read)| {
        let little = little.next().unwrap_or_default();
        let mut bins = BINS.map(|odds| TrendBin { odds, ..TrendBin::default() });
        for (odds, better) in all.iter().map(read) {
            let Some(odds) = odds else { continue };
            for (said, there) in [(odds.better, better > little), (odds.worse, better < -little)] {
                if let Some(bin) = bins.iter_mut().find(|b| (b.odds.0..b.odds.1).contains(&said)) {
                    bin.said += 1;
                    bin.mean += said;
                    bin.there += usize::from(there);
                }
            }
        }
        bins.iter_mut().for_each(|b| b.mean /= b.said.max(1) as f64);
        (name, bins.to_vec())
    })
}
