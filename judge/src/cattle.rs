//! Ways of drawing cows, on simulated horses and cows within the same limits of the herd: works and cows lost until a horse holds its
//! position.

use cavesson_core::cattle::{
    CattleEvent, CattleRide, CowHealth, CowNeeds, HeldTurn, HerdCow, HerdRules, Manner, SpeedLimit, Stopped, Way, Work,
    WorkDone, cattle_day, cow_works, draw, speed_limit,
};
use cavesson_sim::{SimCattleHorse, SimCow};
use rand::SeedableRng;
use rand_chacha::ChaCha8Rng;

/// A way of drawing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Drawn {
    /// As the application draws.
    ByTheTool,
    /// Cow after cow, whichever has works left.
    ByTurns,
    /// The slowest that has works left.
    Slowest,
}

impl Drawn {
    /// All of them.
    pub const ALL: [Drawn; 3] = [Drawn::ByTheTool, Drawn::ByTurns, Drawn::Slowest];

    /// In words.
    pub fn name(self) -> &'static str {
        match self {
            Drawn::ByTheTool => "drawn by the tool",
            Drawn::ByTurns => "by turns",
            Drawn::Slowest => "always the slowest",
        }
    }
}

/// What came of a barn's horses.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct CattleResult {
    /// Horses.
    pub horses: usize,
    /// Those that hold four turns in five on a cow of [`HOLDS`] feet a second, in time.
    pub there: usize,
    /// Works of all horses until then, or until time was up.
    pub works: usize,
    /// Cows lost in them.
    pub lost: usize,
    /// How far the limits that were worked out at the end are off, feet a second, summed over horses and ways.
    pub off: f64,
}

/// What counts as there: "rate, stop, turn" on an honest cow, feet a second.
pub const HOLDS: f64 = 9.0;
/// Days, of which three in seven have cattle.
const DAYS: i32 = 150;
const HORSES: usize = 4;
const GOES: u8 = 3;
/// Days of turns that a limit rests on.
const BACK: i32 = 28;
const TRIES: u64 = 3_000;

/// The herd: mostly slow and honest, some that bob or run.
const HERD: [Manner; 20] = [
    Manner::Slow,
    Manner::Honest,
    Manner::BobAndWeave,
    Manner::Honest,
    Manner::Slow,
    Manner::Running,
    Manner::Honest,
    Manner::Slow,
    Manner::Honest,
    Manner::BobAndWeave,
    Manner::Honest,
    Manner::Slow,
    Manner::Honest,
    Manner::Running,
    Manner::Slow,
    Manner::Honest,
    Manner::BobAndWeave,
    Manner::Slow,
    Manner::Honest,
    Manner::Sour,
];

struct Pupil {
    horse: SimCattleHorse,
    turns: Vec<(i32, Way, HeldTurn)>,
    works: usize,
    lost: usize,
    there: bool,
}

impl Pupil {
    fn limits(&self, day: i32) -> [SpeedLimit; 2] {
        [Way::Left, Way::Right].map(|way| {
            let of = self.turns.iter().filter(|(on, to, _)| *to == way && day - on <= BACK);
            speed_limit(&of.map(|(.., turn)| *turn).collect::<Vec<_>>())
        })
    }
}

/// Works a barn of four green horses on twenty cows, drawn one way, from a seed.
pub fn cattle_days(way: Drawn, seed: u64) -> CattleResult {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let mut cows: Vec<SimCow> = HERD.iter().map(|manner| SimCow::of(*manner, &mut rng)).collect();
    let pupil = |horse| Pupil { horse, turns: vec![], works: 0, lost: 0, there: false };
    let mut pupils: Vec<Pupil> = (0..HORSES).map(|_| pupil(SimCattleHorse::of(&mut rng))).collect();
    let mut logs: Vec<Vec<WorkDone>> = vec![vec![]; cows.len()];
    let (rules, mut next) = (HerdRules::default(), 0);
    for day in (0..DAYS).filter(|day| [1, 3, 5].contains(&(day % 7))) {
        let herd = herd_on(day, &logs);
        let goes = match way {
            Drawn::ByTheTool => by_the_tool(&pupils, &herd, &rules, day, seed),
            Drawn::ByTurns | Drawn::Slowest => by_rule(way, &pupils, &herd, &cows, &rules, &mut next, day),
        };
        for (n, cow) in goes {
            let log = pupils[n].horse.work(&mut cows[cow], cow, day, &mut rng);
            note(&mut pupils[n], &log, &mut logs[cow], day);
        }
        for pupil in &mut pupils {
            pupil.there |= pupil.horse.holds(HOLDS);
        }
    }
    let off = |p: &Pupil| -> f64 {
        let truth = p.horse.half.map(|half| half - 1.5 * 4.0_f64.ln());
        let found = p.limits(DAYS);
        (0..2).map(|way| (found[way].limit - truth[way]).abs()).sum()
    };
    CattleResult {
        horses: pupils.len(),
        there: pupils.iter().filter(|p| p.there).count(),
        works: pupils.iter().map(|p| p.works).sum(),
        lost: pupils.iter().map(|p| p.lost).sum(),
        off: pupils.iter().map(off).sum(),
    }
}

/// The herd as it is known on a day: its works so far.
fn herd_on(day: i32, logs: &[Vec<WorkDone>]) -> Vec<HerdCow> {
    let ago = |log: &Vec<WorkDone>| log.iter().map(|w| WorkDone { day: w.day - day, ..*w }).collect();
    let cow = |(manner, log): (&Manner, _)| HerdCow { manner: *manner, health: CowHealth::Well, log: ago(log) };
    HERD.iter().zip(logs).map(cow).collect()
}

fn by_the_tool(pupils: &[Pupil], herd: &[HerdCow], rules: &HerdRules, day: i32, seed: u64) -> Vec<(usize, usize)> {
    let needs = CowNeeds {
        manners: vec![Manner::Slow, Manner::Honest, Manner::BobAndWeave],
        most_speed: 13,
        least_honour: 600,
        helper: false,
    };
    let learning: Vec<usize> = (0..pupils.len()).filter(|n| !pupils[*n].there).collect();
    let ride = |n: &usize| {
        let limits = pupils[*n].limits(day);
        let limit = limits.into_iter().filter(|l| l.turns > 0).reduce(|a, b| if b.limit < a.limit { b } else { a });
        CattleRide { needs: needs.clone(), limit, from: 1, goes: GOES, learns: true }
    };
    let rides: Vec<CattleRide> = learning.iter().map(ride).collect();
    if rides.is_empty() {
        return vec![];
    }
    let slots = rides.len() as u16 * (u16::from(GOES) + 1);
    let rules = HerdRules { bring: 20, ..*rules };
    let problem = cattle_day(&rides, herd, &rules, slots, true);
    let (goes, _) = draw(&problem, Work { seed: seed ^ u64::from(day.unsigned_abs()), tries: TRIES });
    goes.into_iter().flatten().map(|go| (learning[usize::from(go.horse)], usize::from(go.cow))).collect()
}

fn by_rule(
    way: Drawn,
    pupils: &[Pupil],
    herd: &[HerdCow],
    cows: &[SimCow],
    rules: &HerdRules,
    next: &mut usize,
    day: i32,
) -> Vec<(usize, usize)> {
    let left = |cow: &HerdCow| {
        let today = cow.today(rules);
        let week = u32::from(rules.week).saturating_sub(today.works[1]);
        if cow.spared(rules).is_some() { 0 } else { week.min(rules.day.into()) }
    };
    let mut left: Vec<u32> = herd.iter().map(left).collect();
    let mut goes = vec![];
    for n in (0..pupils.len()).filter(|n| !pupils[*n].there) {
        for _ in 0..GOES {
            let open = (0..cows.len()).filter(|cow| left[*cow] > 0);
            let cow = if way == Drawn::ByTurns {
                // Sorted by who is next.
                open.min_by_key(|cow| (cow + cows.len() - *next % cows.len()) % cows.len())
            } else {
                open.min_by(|a, b| cows[*a].speed(day).total_cmp(&cows[*b].speed(day)))
            };
            let Some(cow) = cow else { break };
            *next = cow + 1;
            left[cow] -= 1;
            goes.push((n, cow));
        }
    }
    goes
}

fn note(pupil: &mut Pupil, log: &[(i64, CattleEvent<usize>)], of_cow: &mut Vec<WorkDone>, day: i32) {
    for work in cow_works(log) {
        pupil.works += 1;
        pupil.lost += work.lost.iter().map(|n| *n as usize).sum::<usize>();
        for turn in &work.turns {
            let held = turn.stopped == Stopped::Even;
            pupil.turns.push((day, turn.way, HeldTurn { speed: turn.speed.feet(), held }));
        }
        let (tried, honoured) = (f64::from(work.tried()), f64::from(work.honoured()));
        of_cow.push(WorkDone { day, minutes: work.minutes(), tried, honoured });
    }
}
