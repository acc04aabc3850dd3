//! The first ride on a horse that nobody here knows: each next ask is the one that tells most.
//!
//! What the horse owns is a network over the needs: a side of a step is likelier owned where all that it needs is, and goes with its
//! other side. Claims of an earlier trainer and the answers of the ride are evidence on it; what follows is drawn by Gibbs sampling
//! (Geman and Geman 1984, IEEE Transactions on Pattern Analysis and Machine Intelligence; memory). The next ask is the one whose answer
//! shares most information with all that is not known (Lindley 1956, On a measure of the information provided by an experiment;
//! memory), among those that are safe: the one-rein stop at a gait comes before anything else at that gait. How the figures below
//! were chosen is in `docs/evidence.md`.

mod choose;
mod network;
mod place;
mod samples;

pub use choose::{IntakeAsk, Next, NoMore};
pub use network::{Claim, Told};
pub use place::{Hole, Placing};

use network::{Network, Node};
use samples::Samples;

use crate::curriculum::{Course, StepIx};

/// Asks after which an intake ride ends: more tires a horse that is being looked at (common practice, no published source).
pub const MOST_ASKS: usize = 30;

/// Under this a hole is not looked for.
const NO_HOLE: f64 = 0.01;

/// An intake ride: the course, what is claimed of the horse, and what it has answered before and today.
#[derive(Debug)]
pub struct Intake<'c> {
    network: Network<'c>,
    samples: Samples,
    /// Nodes that may be holes, and how likely each is.
    open: Vec<(Node, f64)>,
    /// Of today.
    answers: Vec<Told>,
    most: usize,
}

impl<'c> Intake<'c> {
    /// After the answers of earlier rides and of this one, in the order in which they came, `most` asks at most in this one. What was
    /// answered earlier is evidence; what is safe goes by today. The same values give the same ride.
    ///
    /// ```
    /// use cavesson_core::{
    ///     curriculum::{Curriculum, Side},
    ///     intake::{Intake, MOST_ASKS, Next, Told},
    ///     response::Outcome,
    /// };
    /// let course = Curriculum::standard().course();
    /// let brake = course.find("G7@walk").unwrap();
    /// // Whatever is claimed, the brake is asked for first, on both sides.
    /// let first = Intake::new(&course, &[], &[], &[], MOST_ASKS).next();
    /// assert!(matches!(&first, Next::Ask(ask) if ask.step == brake && ask.side == Side::Left));
    /// // A horse without one is not ridden on.
    /// let refused = Told { step: brake, side: Side::Left, outcome: Outcome::None, met: false };
    /// let after = Intake::new(&course, &[], &[], &[refused, refused], MOST_ASKS).next();
    /// assert!(matches!(after, Next::Done(_)));
    /// ```
    pub fn new(course: &'c Course, claims: &[Claim], earlier: &[Told], today: &[Told], most: usize) -> Intake<'c> {
        let network = Network::new(course, claims, earlier.iter().chain(today));
        let samples = Samples::draw(&network);
        let holes = (0..network.nodes.len()).map(|n| (n, samples.hole(n)));
        let open = holes.filter(|(_, likely)| *likely >= NO_HOLE).collect();
        Intake { network, samples, open, answers: today.to_vec(), most }
    }

    /// The course.
    pub fn course(&self) -> &'c Course {
        self.network.course
    }

    /// How likely the horse owns a step, on its weaker side; `None` for a step that an intake ride is not about.
    pub fn owned(&self, step: StepIx) -> Option<f64> {
        let sides = self.network.course.step(step).sides.list().iter();
        sides.filter_map(|&side| self.network.find(step, side)).map(|n| self.samples.share(n)).reduce(f64::min)
    }
}
