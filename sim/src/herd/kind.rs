//! Kinds of herds: what horses, rungs and riders are like. Invented; none is a measurement of real horses.

/// A spread of values that are drawn anew for each horse, rung or rider.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Draw {
    /// The middle.
    pub mean: f64,
    /// One standard deviation.
    pub sd: f64,
}

const fn draw(mean: f64, sd: f64) -> Draw {
    Draw { mean, sd }
}

/// How reps show how near the answer was. All on the scale of nearness (log-odds), weights in steps of the scale, seconds in
/// logarithms of the standard's.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Showing {
    /// Width of a try under the whole answer.
    pub try_width: f64,
    /// Where the weight sits at nearness 0, over the standard's; one draw a rung.
    pub weight: Draw,
    /// Steps of weight saved for each unit of nearness.
    pub weight_slope: f64,
    /// Spread of the weight.
    pub weight_sd: f64,
    /// Where the logarithm of the seconds sits at nearness 0; one draw a rung.
    pub time: Draw,
    /// Logarithm of the seconds saved for each unit of nearness.
    pub time_slope: f64,
    /// Spread of the logarithm of the seconds.
    pub time_sd: f64,
}

/// How horses learn.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Learners {
    /// Where a horse starts on rungs that need nothing.
    pub level: Draw,
    /// Spread of a rung, and of a side of it, around what the horse brings.
    pub own_sd: f64,
    /// Spread of the lean to one side, the same on all rungs.
    pub lean_sd: f64,
    /// On a rung with needs: how much of what was brought of them counts, and of the horse's own level.
    pub carries: (f64, f64),
    /// What the step up costs on a rung with needs: standing, at the walk, at the jog, at the lope.
    pub step_cost: [f64; 4],
    /// Logarithm of the share of the way to its ceiling that one day of work covers.
    pub ln_pace: Draw,
    /// How high it gets.
    pub ceiling: Draw,
    /// Lost on a day off, after three.
    pub fade: Draw,
    /// Logarithm of the spread of its days.
    pub ln_day_sd: Draw,
    /// How often a day is really bad.
    pub bad_days: f64,
}

/// How what was owned is lost.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Losing {
    /// Share of horses that lose something.
    pub horses: f64,
    /// How much, log-odds.
    pub amount: Draw,
    /// Share of losses that come by and by.
    pub by_and_by: f64,
    /// Share of losses that come back with work.
    pub comes_back: f64,
}

/// Who logs, and how.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RiderKind {
    /// Fewest and most reps of a side in a session.
    pub reps: (u32, u32),
    /// How often seconds are taken: least and most.
    pub timed: (f64, f64),
    /// Tick of the clock, milliseconds.
    pub tick: u32,
    /// Share of riders who use only some of the weights.
    pub few_weights: f64,
    /// Sessions that a rung whose needs are owned waits before it is begun: at most.
    pub waits: u32,
}

/// A kind of herd.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Kind {
    /// Its name.
    pub name: &'static str,
    /// What reps show.
    pub showing: Showing,
    /// How its horses learn.
    pub learners: Learners,
    /// How they lose.
    pub losing: Losing,
    /// Who logs.
    pub riders: RiderKind,
    /// Fewest and most sessions of a horse.
    pub sessions: (u32, u32),
    /// Share of its rungs that are counted in something else than asks.
    pub counted: f64,
}

const EVEN: Kind = Kind {
    name: "even",
    showing: SHOWING,
    learners: LEARNERS,
    losing: LOSING,
    riders: RIDERS,
    sessions: (30, 60),
    counted: 0.0,
};

const SHOWING: Showing = Showing {
    try_width: 1.4,
    weight: draw(0.3, 0.25),
    weight_slope: 0.9,
    weight_sd: 0.75,
    time: draw(-0.03, 0.05),
    time_slope: 0.18,
    time_sd: 0.165,
};
const LEARNERS: Learners = Learners {
    level: draw(-0.3, 0.8),
    own_sd: 0.4,
    lean_sd: 0.4,
    carries: (0.6, 0.35),
    step_cost: [0.5, 0.8, 1.0, 1.7],
    ln_pace: draw(-2.3, 0.6),
    ceiling: draw(2.6, 1.0),
    fade: draw(0.015, 0.008),
    ln_day_sd: draw(-0.5, 0.35),
    bad_days: 0.03,
};
const LOSING: Losing = Losing { horses: 0.3, amount: draw(2.2, 0.7), by_and_by: 0.4, comes_back: 0.5 };
const RIDERS: RiderKind = RiderKind { reps: (3, 9), timed: (0.5, 0.95), tick: 100, few_weights: 0.1, waits: 6 };

/// Every kind.
pub const KINDS: [Kind; 7] = [
    EVEN,
    Kind {
        name: "sound",
        showing: Showing { try_width: 1.6, weight: draw(0.1, 0.2), weight_sd: 0.65, ..SHOWING },
        learners: Learners { ln_pace: draw(-2.0, 0.7), bad_days: 0.0, carries: (0.75, 0.2), ..LEARNERS },
        losing: Losing { horses: 0.0, ..LOSING },
        riders: RiderKind { reps: (4, 8), waits: 3, ..RIDERS },
        sessions: (25, 45),
        ..EVEN
    },
    Kind {
        name: "moody",
        showing: Showing { weight: draw(0.5, 0.3), time_slope: 0.15, time_sd: 0.2, ..SHOWING },
        learners: Learners {
            ln_day_sd: draw(-0.15, 0.4),
            bad_days: 0.06,
            lean_sd: 0.55,
            carries: (0.4, 0.5),
            ..LEARNERS
        },
        losing: Losing { horses: 0.25, ..LOSING },
        riders: RiderKind { reps: (2, 7), waits: 12, ..RIDERS },
        sessions: (45, 80),
        ..EVEN
    },
    Kind {
        name: "coarse",
        showing: Showing { try_width: 1.1, weight: draw(0.2, 0.3), weight_slope: 0.75, weight_sd: 0.9, ..SHOWING },
        learners: Learners { level: draw(0.1, 0.9), step_cost: [0.4, 0.6, 0.8, 1.4], ..LEARNERS },
        losing: Losing { horses: 0.3, by_and_by: 0.6, ..LOSING },
        riders: RiderKind { reps: (5, 12), timed: (0.3, 0.7), tick: 500, few_weights: 0.5, waits: 25 },
        sessions: (45, 75),
        ..EVEN
    },
    Kind {
        name: "slipping",
        showing: Showing { weight_slope: 1.05, time: draw(0.05, 0.06), ..SHOWING },
        learners: Learners { ln_pace: draw(-1.9, 0.5), ceiling: draw(3.0, 0.9), ..LEARNERS },
        losing: Losing { horses: 0.6, amount: draw(2.6, 0.9), by_and_by: 0.4, comes_back: 0.4 },
        sessions: (45, 90),
        ..EVEN
    },
    Kind {
        name: "slow",
        showing: Showing { weight: draw(0.35, 0.2), time_sd: 0.14, ..SHOWING },
        learners: Learners {
            ln_pace: draw(-2.9, 0.6),
            ceiling: draw(2.1, 1.2),
            fade: draw(0.025, 0.012),
            step_cost: [0.7, 1.0, 1.2, 1.9],
            ..LEARNERS
        },
        losing: Losing { horses: 0.2, ..LOSING },
        riders: RiderKind { reps: (3, 6), timed: (0.0, 0.9), waits: 15, ..RIDERS },
        sessions: (50, 100),
        ..EVEN
    },
    Kind { name: "counted", losing: Losing { horses: 0.5, ..LOSING }, sessions: (45, 75), counted: 0.8, ..EVEN },
];
