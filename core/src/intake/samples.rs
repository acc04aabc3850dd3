//! Horses as they may be, drawn from the network.

use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

use super::network::{Network, Node, ON_OWNED, OVER_A_HOLE, SIDES_AGREE};

/// Runs from different beginnings.
const RUNS: u64 = 4;
/// Sweeps of a run that are let go, for it to forget its beginning,
const BURN_IN: usize = 40;
/// horses that are kept of it,
const KEPT: usize = 96;
/// and sweeps from one to the next.
const APART: usize = 2;
/// Words of 64 horses.
const WORDS: usize = RUNS as usize * KEPT / 64;

/// Which of the drawn horses own each node: a bit a horse.
#[derive(Debug)]
pub(super) struct Samples {
    bits: Vec<[u64; WORDS]>,
    /// Which of them have a hole there: the node is not owned, and all that it rests on is.
    holes: Vec<[u64; WORDS]>,
}

/// How often something was so, of all horses drawn, kept away from never and always.
fn share(count: u32) -> f64 {
    (f64::from(count) + 0.5) / (f64::from((WORDS * 64) as u32) + 1.0)
}

impl Samples {
    pub(super) fn draw(network: &Network<'_>) -> Samples {
        let mut bits = vec![[0_u64; WORDS]; network.nodes.len()];
        let odds = Odds::of(network);
        let mut drawn = 0;
        for run in 0..RUNS {
            let mut rng = ChaCha8Rng::seed_from_u64(run);
            // From a horse that owns all, one that owns nothing, and two between.
            let start = [1.0, 0.0, 0.66, 0.33][run as usize % 4];
            let mut owned: Vec<bool> = network.nodes.iter().map(|_| rng.random_bool(start)).collect();
            (0..BURN_IN).for_each(|_| sweep(network, &odds, &mut owned, &mut rng));
            for _ in 0..KEPT {
                (0..APART).for_each(|_| sweep(network, &odds, &mut owned, &mut rng));
                for (node, _) in owned.iter().enumerate().filter(|(_, is)| **is) {
                    bits[node][drawn / 64] |= 1 << (drawn % 64);
                }
                drawn += 1;
            }
        }
        let hole = |node: Node| {
            let under = network.parents[node].iter().fold([u64::MAX; WORDS], |all, &p| and(&all, &bits[p]));
            and(&under, &bits[node].map(|word| !word))
        };
        let holes = (0..bits.len()).map(hole).collect();
        Samples { bits, holes }
    }

    /// How likely a node is owned.
    pub(super) fn share(&self, node: Node) -> f64 {
        share(self.bits[node].iter().map(|w| w.count_ones()).sum())
    }

    /// How likely there is a hole.
    pub(super) fn hole(&self, node: Node) -> f64 {
        share(self.holes[node].iter().map(|w| w.count_ones()).sum())
    }

    /// How likely one node is owned and there is a hole at another.
    pub(super) fn owned_and_hole(&self, owned: Node, hole: Node) -> f64 {
        share(and(&self.bits[owned], &self.holes[hole]).iter().map(|w| w.count_ones()).sum())
    }
}

fn and(a: &[u64; WORDS], b: &[u64; WORDS]) -> [u64; WORDS] {
    std::array::from_fn(|i| a[i] & b[i])
}

/// Logarithms of odds that do not change from horse to horse.
struct Odds {
    /// Of each node where all that it rests on is owned, with claims and answers.
    on_owned: Vec<f64>,
    /// The same where something below is not owned.
    over_a_hole: Vec<f64>,
    /// What a child adds that is owned, and one that is not, where all else that it rests on is owned.
    child: (f64, f64),
    sides_agree: f64,
}

impl Odds {
    fn of(network: &Network<'_>) -> Odds {
        let logit = |p: f64| (p / (1.0 - p)).ln();
        let nodes = 0..network.nodes.len();
        Odds {
            on_owned: nodes.clone().map(|n| logit(network.on_owned(n)) + network.evidence[n]).collect(),
            over_a_hole: nodes.map(|n| logit(OVER_A_HOLE) + network.evidence[n]).collect(),
            child: ((ON_OWNED / OVER_A_HOLE).ln(), ((1.0 - ON_OWNED) / (1.0 - OVER_A_HOLE)).ln()),
            sides_agree: SIDES_AGREE.ln(),
        }
    }
}

/// Draws every node anew, given all others.
fn sweep(network: &Network<'_>, odds: &Odds, owned: &mut [bool], rng: &mut ChaCha8Rng) {
    for node in 0..owned.len() {
        let stands = network.parents[node].iter().all(|&p| owned[p]);
        let mut of = if stands { odds.on_owned[node] } else { odds.over_a_hole[node] };
        if let Some(other) = network.sibling[node] {
            of += if owned[other] { odds.sides_agree } else { -odds.sides_agree };
        }
        for &child in &network.children[node] {
            // A child that stands over another hole says nothing of this node.
            if network.parents[child].iter().all(|&p| p == node || owned[p]) {
                of += if owned[child] { odds.child.0 } else { odds.child.1 };
            }
        }
        owned[node] = rng.random_bool(1.0 / (1.0 + (-of).exp()));
    }
}
