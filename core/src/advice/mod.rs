//! Advance, hold, back, look at, leave alone: with the figures that decided it.
//!
//! [`Advisor`] follows a horse day by day and remembers what it was advanced on, since only what was owned can be lost. A
//! [`Standing`] is where the horse stands on a day: a [`SideCall`] weighs one step on one side, a [`StepCall`] the step as a
//! whole, where the weaker side and the needs below have their say, and a [`HorseCall`] comes before them all: possible
//! pain, or a horse better left alone.

mod advisor;
mod alarm;
mod answers;
mod at_work;
mod call;
mod cause;
mod claim;
mod compare;
mod cure;
mod fault;
mod forecast;
mod opening;
mod overrule;
mod pain;
mod posture;
mod reach;
mod reasons;
mod replay;
mod rest;
mod snapshot;
mod softness;
mod standing;
mod watched;
mod watching;

pub use advisor::{Advisor, TrainerInput};
pub use alarm::{Alarm, AlarmAnswer, AlarmKind, TurnedOut};
pub use answers::{DayAnswers, GaitCost, HandsCost, SidedAsk, first_and_best_in_words, gait_costs, hands_cost};
pub use at_work::{in_work, stiff_side};
pub use call::{Call, HorseCall, SideCall, Status, StepCall};
pub use cause::{Cause, FaultCounts, causes, owned_by_sides, remedy_in_words};
pub use claim::ClaimState;
pub use cure::{Cure, RemedyRecord, cures};
pub use fault::{
    ANTICIPATES, AskContext, FAULT_WINDOW_DAYS, Factor, FaultPattern, HANGS_LEFT, HANGS_RIGHT, fault_patterns, is_late,
};
pub use forecast::{EarlierForecast, Forecast, Shift, Spread, forecast, shift};
pub use overrule::{Overrule, Verdict};
pub use pain::{CareChange, Fallen, Pain};
pub use posture::Posture;
pub(crate) use reasons::capitalised;
pub use replay::{Follower, HorseRecord, replay_barn, replay_barn_on, replay_barn_on_threads};
pub use rest::LeaveAlone;
pub use snapshot::{AdvisorSnapshot, ObserverSnapshot};
pub use softness::{Softness, softness};
pub use standing::Standing;
pub use watched::{FORECAST_BEFORE, History, WatchedHistory, foreseen_from, kept_mornings};
pub use watching::WatchingAdvisor;
