//! A work on the flag, read from its recording: where flag and horse stopped, who left first, and by how much.

mod halt;
mod runs;
mod simplex;
mod stops;
mod trace;

pub use stops::{EndFound, FlagEnd, FlagReport, FlagStop, Recording, Sample, Travel, Way, WhoLeft};
