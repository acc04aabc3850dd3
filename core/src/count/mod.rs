//! Rungs that are counted in something else than asks, each with the likelihood that fits it.
//!
//! | measure | what is counted | likelihood | what meets the standard |
//! |---|---|---|---|
//! | laps until soft | every lap before the soft one missed | geometric | soft within so many laps |
//! | nose-ups a circle | nose-ups in so many circles | Poisson | a circle without any |
//! | set-ups | those accepted | binomial | a set-up accepted |
//! | tries | each stage of the approach passed or not, at one chance | geometric, cut off at the far side | across within so many tries |
//! | share of rein | whether a stretch at the share or over it stayed soft | Bernoulli | such a stretch soft |
//! | mounts | those it stood loose for | binomial | stood loose, and so many of them |
//! | seconds held | how long it stayed off the hand, or was let go before it came back | exponential, censored | held for so long |
//! | steps | steps before one went wrong, or it was told to stand | geometric, censored | so many steps on end |
//!
//! The one unknown behind each is the share that meets the standard. It moves from day to day as that of a rung of asks does:
//! see [`crate::belief`].

mod chance;
mod kinds;
mod words;

pub use kinds::{AskedBy, Count, CountError, ObstacleStage};
