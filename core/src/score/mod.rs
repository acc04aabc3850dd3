//! A practice run scored as a judge would: seventy to begin with, each manoeuvre from a point and a half under to a point and a half over
//! in halves, less the penalties. And how well two who scored the same runs agree.

mod agreement;
mod sheet;

pub use agreement::{Agreement, Kappa, agreement};
pub use sheet::{MarkGiven, Penalty, Sheet, SheetError, WherePoints, halves, where_points_go};
