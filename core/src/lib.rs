//! The rules of the job: what a rep is, what meets a standard, what a horse owns, and what to do about it.
//!
//! Everything here is pure. Dates, postures and settings come in as values; the same values give the same
//! answers. Nothing here reads a file, a clock or a table. The curriculum is data compiled in from `curriculum/`.
//!
//! Read in this order: [`curriculum`] (what is taught, in which order), [`response`] (one ask and its answer), [`count`]
//! (what is counted otherwise), [`belief`] (from both to what the horse does on an ordinary day), [`advice`] (advance, hold or back), [`intake`] (the first ride on a horse that nobody knows), [`load`] (heat and the load of the
//! work), [`pattern`] (barrels on real ground), [`ride`] (what to ride today and what to do next while riding), [`tack`] (what a bit does, and which way the horse asks), [`figure`] (figures, drills and courses as text), [`exercise`] (what came of drills, obstacles, set-ups and changes of lead on a ride), [`score`] (a run scored as a judge would), [`cattle`] (which cow for which horse, and getting past its head) and [`schedule`] (who rides whom, when, where).

pub mod advice;
pub mod barn;
pub mod belief;
pub mod cattle;
pub mod count;
pub mod curriculum;
pub mod exercise;
pub mod figure;
pub mod intake;
pub mod load;
mod order;
pub mod pattern;
mod plane;
pub mod response;
pub mod ride;
pub mod schedule;
pub mod score;
pub mod tack;
mod threads;
mod words;

pub use words::UnknownWord;

/// A fingerprint of this build's rules and data: 16 hexadecimal digits that change with any of them. What was computed under another
/// one may come out otherwise now.
pub const FINGERPRINT: &str = env!("CORE_FINGERPRINT");
