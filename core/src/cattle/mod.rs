//! Cattle and the flag: which cow for which horse, can a horse get past a cow's head in time, how far past it goes when the cow stops,
//! how fresh a cow is, and what a recorded work on the flag says.
//!
//! Feet, seconds, feet a second: what the trade measures cattle in, so that nothing is converted twice.

mod day;
mod draw;
mod event;
mod fix;
mod flag;
mod freshness;
mod head_off;
mod herd;
mod hold;
mod outside;
mod position;
mod practice;
mod programme;
mod quit;

pub use day::{CattleRide, CowNeeds, cattle_day, fastest};
pub use draw::{Broken, Draw, DrawCow, DrawHorse, Go, Goes, LeftOut, Manner, Slots, WhyLeftOut, Work, draw};
pub use event::{CattleEvent, CowSpeed, CowWork, Position, Stopped, Turn, cow_works};
pub use fix::{CameBack, CattleFault, FixElsewhere, Showed, came_back, fix_elsewhere};
pub use flag::{EndFound, FlagEnd, FlagReport, FlagStop, Recording, Sample, Travel, Way, WhoLeft};
pub use freshness::{CowDay, Start, Wear, WorkDone};
pub use head_off::{HeadOff, Made, Mark, MarkFound, RunOut, RunningCow, RunningHorse, Tires};
pub use herd::{CowHealth, CowToday, Freshness, HerdCow, HerdRules};
pub use hold::{Band, Held, Hold};
pub use outside::{Outside, outside};
pub use position::{HeldTurn, SpeedLimit, speed_limit};
pub use practice::{HERD, Mover, PEN, Placed, Practice, Stance, flight_zone};
pub use programme::{EndHabit, FlagAsked, FlagMove, StopTold, end_habit, flag_programme, flag_speed};
pub use quit::{CattleAdvice, CattleLimits, NextOnCattle, next_on_cattle, next_on_flag};
