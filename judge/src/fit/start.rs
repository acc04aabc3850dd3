use cavesson_core::belief::{ModelSettings, Spread};

/// Where every fit begins: round numbers that nobody tuned, so that nothing of a family that is left out is in them.
///
/// ```
/// use cavesson_core::belief::ModelSettings;
/// assert_ne!(cavesson_judge::round_numbers(), ModelSettings::default());
/// ```
pub fn round_numbers() -> ModelSettings {
    let mut s = ModelSettings::default();
    s.starts.level = Spread { mean: 0.0, sd: 1.0 };
    (s.starts.level_share, s.starts.need_share) = (0.5, 0.5);
    s.starts.gait_cost = [0.5, 0.5, 1.0, 1.5, 2.0];
    (s.starts.rung_sd, s.starts.side_sd, s.lean_sd) = (0.5, 0.5, 0.5);
    s.learning.ln_pace = Spread { mean: -2.0, sd: 0.5 };
    s.learning.barn_pace_sd = 0.3;
    s.learning.ceiling = Spread { mean: 2.5, sd: 1.0 };
    (s.learning.ceiling_rung_sd, s.learning.ceiling_side_sd) = (0.5, 0.5);
    s.learning.chance_sd = 0.1;
    s.learning.fade = Spread { mean: 0.01, sd: 0.005 };
    s.days.spreads = [0.25, 0.4, 0.6, 0.9, 1.3];
    (s.days.bad_share, s.days.bad.mean) = (0.02, -1.5);
    (s.losses.own_rate, s.losses.common_rates) = (0.002, [0.002; 3]);
    (s.losses.grows, s.losses.comes_back) = (0.1, 0.1);
    (s.signs.try_width, s.signs.strictness) = (1.5, 1.0);
    (s.signs.weight_at_zero, s.signs.weight_sd) = (0.5, 1.0);
    (s.signs.time_at_zero, s.signs.time_sd) = (0.0, 0.2);
    (s.signs.barn_tries, s.signs.rung_tries, s.signs.spread_tries) = (30.0, 30.0, 30.0);
    s
}
