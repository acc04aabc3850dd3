/// A normal spread: where most are, and how far they stand apart (one standard deviation).
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spread {
    /// The middle.
    pub mean: f64,
    /// One standard deviation, over 0.
    pub sd: f64,
}

/// How a rep shows how near the answer was. Nearness is on the log-odds scale: 0 is where the answer just comes whole.
///
/// Fitted to simulated horses; common practice made into figures, with no published source.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ObservationModel {
    /// Under the whole answer, but no more than this much: a try.
    pub try_width: f64,
    /// Steps of the weight scale over the standard's weight at nearness 0.
    pub weight_at_zero: f64,
    /// Steps of weight saved for each unit of nearness.
    pub weight_slope: f64,
    /// Spread of the weight around that, in steps of the scale.
    pub weight_sd: f64,
    /// Logarithm of the seconds over the standard's seconds at nearness 0.
    pub time_at_zero: f64,
    /// Logarithm of the seconds saved for each unit of nearness.
    pub time_slope: f64,
    /// Spread of the logarithm of the seconds around that.
    pub time_sd: f64,
    /// Share of reps whose seconds are not taken, before a horse has shown its own.
    pub time_missing: f64,
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
    /// What the step up costs on a rung with needs: standing, walk, jog, lope, run.
    pub gait_cost: [f64; 5],
    /// Spread of the rung around that, the same on both of its sides.
    pub rung_sd: f64,
    /// Spread of each side around the rung.
    pub side_sd: f64,
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
    /// How far a good or bad day moves a horse: the middle of the three spreads weighed. Log-odds, standard deviation.
    pub day_sd: f64,
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
                try_width: 1.5,
                weight_at_zero: 0.28,
                weight_slope: 0.91,
                weight_sd: 0.74,
                time_at_zero: -0.06,
                time_slope: 0.178,
                time_sd: 0.163,
                time_missing: 0.2,
            },
            starts: InitialState {
                level: Spread { mean: -0.5, sd: 0.8 },
                level_share: 0.4,
                need_share: 0.6,
                gait_cost: [0.5, 0.8, 0.95, 1.8, 2.2],
                rung_sd: 0.4,
                side_sd: 0.4,
            },
            learning: Learning {
                ln_pace: Spread { mean: -2.2, sd: 0.5 },
                barn_pace_sd: 0.3,
                ceiling: Spread { mean: 2.8, sd: 1.1 },
                ceiling_rung_sd: 0.4,
                ceiling_side_sd: 0.5,
                chance_sd: 0.1,
                free_days: 3,
                fade: Spread { mean: 0.0155, sd: 0.005 },
            },
            day_sd: 0.65,
            lean_sd: 0.45,
            caution: 1.1,
        }
    }
}
