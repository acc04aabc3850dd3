//! The rules of the job, through the core's public doors. One program, so that it is linked once.

mod advice;
mod alarms;
mod answers;
mod belief;
mod build;
mod calls;
mod causes;
mod coach;
mod comeback;
mod count;
mod cures;
mod curriculum;
mod habits;
mod intake;
mod load;
mod needs_graph;
mod outline;
mod plan;
mod response;
mod schedule;
mod schedule_exact;
mod schedule_parts;
mod schedule_rules;
mod slot;
mod support;
mod ways;
