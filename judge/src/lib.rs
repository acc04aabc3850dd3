//! How good the calls and forecasts are, on horses whose true state is known: what is told of them in `docs/evidence.md`, and what the
//! settings of the model are fitted by.

mod calls;
mod cattle;
mod cause_figures;
mod family;
mod figures;
mod fit;
mod forecasts;
mod intake_figures;
mod table;
mod thumbs;
mod trends;

pub use calls::{Called, Calls, Tally, tally};
pub use cattle::{CattleResult, Drawn, HOLDS, cattle_days};
pub use cause_figures::{CauseFigures, cause_figures};
pub use family::Family;
pub use figures::{Figures, PainFigures};
pub use fit::{Descent, KNOBS, Knob, LeftOut, Move, fit, leave_one_out, round_numbers};
pub use forecasts::{DateFigures, Dates, ForecastFigures, Thumb, forecasts};
pub use intake_figures::{IntakeFigures, intake_figures};
pub use table::{
    cause_table, fit_table, forecast_table, herds_table, intake_table, judge_table, settings_table, trend_table,
};
pub use thumbs::{advance_thumbs, back_thumbs};
pub use trends::{TrendBin, trends};
