/// A normal spread: where most are, and how far they stand apart (one standard deviation).
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spread {
    /// The middle.
    pub mean: f64,
    /// One standard deviation, over 0.
    pub sd: f64,
}

/// How a rep shows how near the answer was, where a barn's own logs do not tell yet. Nearness is on the log-odds scale: 0 is where the
/// answer just comes whole.
///
/// Fitted to simulated horses; common practice made into figures, with no published source.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ObservationModel {
    /// Under the whole answer, but no more than this much: a try.
    pub try_width: f64,
    /// Steps of the weight scale over the standard's weight at nearness 0, on a standard of 80 %.
    pub weight_at_zero: f64,
    /// Steps of weight saved for each unit of nearness.
    pub weight_slope: f64,
    /// Spread of the weight around that, in steps of the scale.
    pub weight_sd: f64,
    /// Logarithm of the seconds over the standard's seconds at nearness 0, on a standard of 80 %.
    pub time_at_zero: f64,
    /// Logarithm of the seconds saved for each unit of nearness.
    pub time_slope: f64,
    /// Spread of the logarithm of the seconds around that.
    pub time_sd: f64,
    /// How much of the log-odds by which a standard is stricter than 80 % shows in its weight and seconds.
    pub strictness: f64,
    /// Share of reps whose seconds are not taken, before a horse has shown its own.
    pub time_missing: f64,
    /// How many tries the usual counts for beside a barn's own, where its weights and seconds sit.
    pub barn_tries: f64,
    /// How many tries the barn counts for beside a rung's own.
    pub rung_tries: f64,
    /// How many tries the usual counts for beside a barn's own, for how rough they are.
    pub spread_tries: f64,
    /// How many asks that fell short the usual counts for, for the width of a try.
    pub try_asks: f64,
}

/// How horses start on a rung. Log-odds.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct InitialState {
    /// The common level of a horse on rungs that need nothing.
    pub level: Spread,
    /// On a rung with needs: how much of the horse's common level counts.
    pub level_share: f64,
    /// On a rung with needs: how much of what it owns of them counts.
    pub need_share: f64,
    /// What is owned of the needs counts up to here: past it they are as good as they get, and say no more of what is built on them.
    pub need_most: f64,
    /// What the step up costs on a rung with needs: standing, walk, jog, lope, run.
    pub gait_cost: [f64; 5],
    /// Spread of the rung around that, the same on both of its sides.
    pub rung_sd: f64,
    /// Spread of each side around the rung.
    pub side_sd: f64,
    /// How much wider than that a forecast is for a step that was not begun: what a horse makes of something new shows when it is
    /// asked.
    pub unseen_sd: f64,
}

/// How horses learn and forget.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Learning {
    /// Logarithm of the share of what is left to learn that one day of work adds.
    pub ln_pace: Spread,
    /// How far the middle pace of one barn's horses may lie from the middle of all.
    pub barn_pace_sd: f64,
    /// How high a horse gets in the end, common to its rungs. Log-odds.
    pub ceiling: Spread,
    /// Spread of a rung's ceiling around the horse's.
    pub ceiling_rung_sd: f64,
    /// Spread of a side's ceiling around the rung's.
    pub ceiling_side_sd: f64,
    /// What chance adds or takes on one day of work. Log-odds, standard deviation.
    pub chance_sd: f64,
    /// Days off that cost nothing.
    pub free_days: u32,
    /// Log-odds lost on each day off after those.
    pub fade: Spread,
}

/// How far good and bad days move a horse. Log-odds.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DaySettings {
    /// Spreads that are weighed for a horse, from an even one to a moody one: standard deviations.
    pub spreads: [f64; 5],
    /// How often a day is really bad.
    pub bad_share: f64,
    /// How far such a day moves a horse.
    pub bad: Spread,
}

/// How what a horse could do is lost.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LossSettings {
    /// On one rung and side: how often, a day of work on it.
    pub own_rate: f64,
    /// On all of the horse, on its left, on its right: how often, a day of work.
    pub common_rates: [f64; 3],
    /// How likely each amount is when a loss begins: none, 0.75, 1.5, 2.5 and 4 log-odds.
    pub amounts: [f64; 5],
    /// How often a loss grows to the next amount on a day of work.
    pub grows: f64,
    /// How often a loss comes back on a day of work: half of the time by an amount, half of the time as a whole.
    pub comes_back: f64,
}

/// What the model takes as given. Every figure is common practice made into a number, fitted to simulated horses; none
/// has a published source. What it gets wrong for one horse or barn, the record of that horse and barn corrects.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ModelSettings {
    /// What a rep shows.
    pub signs: ObservationModel,
    /// How horses start.
    pub starts: InitialState,
    /// How they learn and forget.
    pub learning: Learning,
    /// How far days move them.
    pub days: DaySettings,
    /// How they lose.
    pub losses: LossSettings,
    /// How far the right side stands over the left, halved, at the start and in the end, common to a horse's rungs.
    /// Log-odds.
    pub lean_sd: f64,
    /// Figures are told as this much wider than the model has them: a new horse differs from those it was made on.
    pub caution: f64,
}

impl Default for ModelSettings {
    fn default() -> Self {
        ModelSettings {
            signs: ObservationModel {
                try_width: 1.4,
                weight_at_zero: 0.32,
                weight_slope: 0.9,
                weight_sd: 0.78,
                time_at_zero: -0.05,
                time_slope: 0.178,
                time_sd: 0.165,
                strictness: 0.9,
                time_missing: 0.2,
                barn_tries: 40.0,
                rung_tries: 20.0,
                spread_tries: 60.0,
                try_asks: 60.0,
            },
            starts: InitialState {
                level: Spread { mean: -0.25, sd: 1.0 },
                level_share: 0.4,
                need_share: 0.6,
                need_most: 3.0,
                gait_cost: [0.5, 0.8, 0.95, 1.8, 2.2],
                rung_sd: 0.6,
                side_sd: 0.5,
                unseen_sd: 0.9,
            },
            learning: Learning {
                ln_pace: Spread { mean: -2.2, sd: 0.6 },
                barn_pace_sd: 0.3,
                ceiling: Spread { mean: 2.8, sd: 1.35 },
                ceiling_rung_sd: 0.4,
                ceiling_side_sd: 0.5,
                chance_sd: 0.08,
                free_days: 3,
                fade: Spread { mean: 0.0155, sd: 0.005 },
            },
            days: DaySettings {
                spreads: [0.3, 0.48, 0.68, 0.95, 1.35],
                bad_share: 0.01,
                bad: Spread { mean: -1.6, sd: 0.7 },
            },
            losses: LossSettings {
                own_rate: 0.003,
                common_rates: [0.0015, 0.0015, 0.0015],
                amounts: [0.0, 0.35, 0.25, 0.25, 0.15],
                grows: 0.06,
                comes_back: 0.05,
            },
            lean_sd: 0.45,
            caution: 1.1,
        }
    }
}
