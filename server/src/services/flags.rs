//! The motors of the barns' flags: one for each barn, simulated until a real one is put in.

use std::{
    collections::HashMap,
    fmt,
    sync::{Mutex, PoisonError},
    time::Instant,
};

use cavesson_sim::{FlagDrive, FlagOrder, FlagReading, SimFlagDrive};
use uuid::Uuid;

/// Half of the rail of a simulated flag, feet.
const HALF: f64 = 25.0;

/// The motors by barn, on one clock.
pub(crate) struct Flags {
    since: Instant,
    drives: Mutex<HashMap<Uuid, Box<dyn FlagDrive>>>,
}

impl Default for Flags {
    fn default() -> Flags {
        Flags { since: Instant::now(), drives: Mutex::default() }
    }
}

impl fmt::Debug for Flags {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Flags").finish_non_exhaustive()
    }
}

impl Flags {
    /// Gives a barn's motor an order, and tells what it did since the last, with half the length of its rail.
    pub(crate) fn order(&self, barn: Uuid, order: FlagOrder) -> (Vec<FlagReading>, f64) {
        let t = self.since.elapsed().as_secs_f64();
        // A motor that a panic left behind is still a motor.
        let mut drives = self.drives.lock().unwrap_or_else(PoisonError::into_inner);
        let drive = drives.entry(barn).or_insert_with(|| Box::new(SimFlagDrive::new(HALF, t)));
        let readings = drive.readings(t);
        drive.order(t, order);
        (readings, drive.half())
    }
}
