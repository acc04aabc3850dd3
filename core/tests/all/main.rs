//! The rules of the job, through the core's public doors. One program, so that it is linked once.

mod advice;
mod belief;
mod calls;
mod coach;
mod count;
mod curriculum;
mod habits;
mod load;
mod outline;
mod plan;
mod pose;
mod response;
mod room;
mod shorthand;
mod support;
mod watch;
mod ways;
mod week;
mod week_exact;
mod week_parts;
mod week_rules;
