//! A knapsack of two stretches of time, of which each horse has at most one ride (dynamic programming over what is left of both;
//! Bellman 1957, memory).

/// A ride that may go into the day.
#[derive(Clone, Copy)]
pub(super) struct Item {
    pub(super) work: usize,
    pub(super) worth: f32,
    pub(super) units: usize,
}

/// Scratch for the table, kept so that it is not asked for at each move.
#[derive(Default)]
pub(super) struct Knapsack {
    pub(super) items: Vec<Item>,
    /// The items of each horse, from and to.
    pub(super) horses: Vec<(usize, usize)>,
    /// For what is left of both stretches, the most worth with the horses so far, and without the last of them.
    pub(super) worth: Vec<f32>,
    before: Vec<f32>,
    /// For each horse and what is left: its item, and whether that goes into the shorter stretch.
    pick: Vec<u32>,
    pub(super) chosen: Vec<usize>,
}

/// No ride of this horse.
const NONE: u32 = u32::MAX;

impl Knapsack {
    /// Chooses what goes into two stretches of so many units.
    pub(super) fn fill(&mut self, long: usize, short: usize) {
        let wide = short + 1;
        let states = (long + 1) * wide;
        self.worth.clear();
        self.worth.resize(states, 0.0);
        self.pick.clear();
        self.pick.resize(states * self.horses.len(), NONE);
        for (pick, &(from, to)) in self.pick.chunks_exact_mut(states).zip(&self.horses) {
            self.before.clone_from(&self.worth);
            for (n, item) in self.items.iter().enumerate().take(to).skip(from) {
                let (worth, units, name) = (item.worth, item.units, (n as u32) << 1);
                let rest = states - units * wide;
                let to = units * wide;
                better(&mut self.worth[to..], &self.before[..rest], &mut pick[to..], worth, name);
                for row in (0..=long).filter(|_| units <= short).map(|r| r * wide) {
                    let to = row + units..row + wide;
                    let from = row..row + wide - units;
                    better(&mut self.worth[to.clone()], &self.before[from], &mut pick[to], worth, name | 1);
                }
            }
        }
        self.chosen.clear();
        let (mut long, mut short) = (long, short);
        for pick in self.pick.chunks_exact(states).rev() {
            let p = pick[long * wide + short];
            if p != NONE {
                let item = self.items[(p >> 1) as usize];
                let left = if p & 1 == 0 { &mut long } else { &mut short };
                *left -= item.units;
                self.chosen.push(item.work);
            }
        }
    }
}

/// Where something with more beside it is better than what is there, it takes its place.
fn better(worth: &mut [f32], before: &[f32], pick: &mut [u32], more: f32, name: u32) {
    for ((worth, before), pick) in worth.iter_mut().zip(before).zip(pick) {
        let with = before + more;
        if with > *worth {
            *worth = with;
            *pick = name;
        }
    }
}
