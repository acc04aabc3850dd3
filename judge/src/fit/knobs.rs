use cavesson_core::belief::ModelSettings;

/// How a setting moves.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Move {
    /// By so much.
    By(f64),
    /// By this factor.
    Times(f64),
}

/// A setting that is fitted.
#[derive(Debug, Clone, Copy)]
pub struct Knob {
    /// Its name, as in [`ModelSettings`].
    pub name: &'static str,
    /// How far one move goes.
    pub one: Move,
    at: fn(&mut ModelSettings) -> Vec<&mut f64>,
}

impl Knob {
    /// Moves the setting, by parts of a move.
    pub fn turn(&self, settings: &mut ModelSettings, moves: f64) {
        for value in (self.at)(settings) {
            match self.one {
                Move::By(step) => *value += moves * step,
                Move::Times(factor) => *value *= factor.powf(moves),
            }
        }
    }

    /// The setting; the first of those that move together.
    pub fn value(&self, settings: &ModelSettings) -> f64 {
        let mut copy = *settings;
        (self.at)(&mut copy).first().map_or(0.0, |v| **v)
    }
}

macro_rules! knob {
    ($name:literal, $one:expr, $($field:tt)+) => {
        Knob { name: $name, one: $one, at: |s| vec![&mut s.$($field)+] }
    };
}

/// Every setting that is fitted. What is left out is a matter of how the numbers are worked out, or is said by the record itself.
pub const KNOBS: [Knob; 37] = [
    knob!("starts.level.mean", Move::By(0.25), starts.level.mean),
    knob!("starts.level.sd", Move::Times(1.25), starts.level.sd),
    knob!("starts.level_share", Move::Times(1.3), starts.level_share),
    knob!("starts.need_share", Move::Times(1.2), starts.need_share),
    knob!("starts.gait_cost[walk]", Move::By(0.25), starts.gait_cost[1]),
    knob!("starts.gait_cost[jog]", Move::By(0.25), starts.gait_cost[2]),
    knob!("starts.gait_cost[lope]", Move::By(0.3), starts.gait_cost[3]),
    knob!("starts.rung_sd", Move::Times(1.25), starts.rung_sd),
    knob!("starts.side_sd", Move::Times(1.25), starts.side_sd),
    knob!("lean_sd", Move::Times(1.25), lean_sd),
    knob!("learning.ln_pace.mean", Move::By(0.2), learning.ln_pace.mean),
    knob!("learning.ln_pace.sd", Move::Times(1.25), learning.ln_pace.sd),
    knob!("learning.barn_pace_sd", Move::Times(1.4), learning.barn_pace_sd),
    knob!("learning.ceiling.mean", Move::By(0.3), learning.ceiling.mean),
    knob!("learning.ceiling.sd", Move::Times(1.25), learning.ceiling.sd),
    knob!("learning.ceiling_rung_sd", Move::Times(1.3), learning.ceiling_rung_sd),
    knob!("learning.ceiling_side_sd", Move::Times(1.3), learning.ceiling_side_sd),
    knob!("learning.chance_sd", Move::Times(1.4), learning.chance_sd),
    knob!("learning.fade.mean", Move::Times(1.3), learning.fade.mean),
    knob!("learning.fade.sd", Move::Times(1.4), learning.fade.sd),
    Knob { name: "days.spreads", one: Move::Times(1.15), at: |s| s.days.spreads.iter_mut().collect() },
    knob!("days.bad_share", Move::Times(2.0), days.bad_share),
    knob!("days.bad.mean", Move::By(0.4), days.bad.mean),
    knob!("losses.own_rate", Move::Times(1.7), losses.own_rate),
    knob!("losses.common_rates[all]", Move::Times(1.7), losses.common_rates[0]),
    Knob {
        name: "losses.common_rates[side]",
        one: Move::Times(1.7),
        at: |s| s.losses.common_rates.iter_mut().skip(1).collect(),
    },
    knob!("losses.grows", Move::Times(1.7), losses.grows),
    knob!("losses.comes_back", Move::Times(1.5), losses.comes_back),
    knob!("signs.try_width", Move::Times(1.1), signs.try_width),
    knob!("signs.weight_at_zero", Move::By(0.08), signs.weight_at_zero),
    knob!("signs.weight_sd", Move::Times(1.07), signs.weight_sd),
    knob!("signs.time_at_zero", Move::By(0.02), signs.time_at_zero),
    knob!("signs.time_sd", Move::Times(1.07), signs.time_sd),
    knob!("signs.strictness", Move::Times(1.15), signs.strictness),
    knob!("signs.barn_tries", Move::Times(1.6), signs.barn_tries),
    knob!("signs.rung_tries", Move::Times(1.6), signs.rung_tries),
    knob!("signs.spread_tries", Move::Times(2.0), signs.spread_tries),
];
