//! Steps and sides that an intake ride is about, what each rests on, and what is known of each.

use std::collections::BTreeMap;

use chrono::NaiveDate;

use crate::{
    belief::Day,
    curriculum::{Course, Gait, ONE_REIN_STOP, Place, Side, StepIx, SubjectKind},
    response::Outcome,
    ride::{Asked, Shown},
};

/// What someone says that a horse knows: worth a little, until the horse shows it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Claim {
    /// The step.
    pub step: StepIx,
}

/// One answer of the ride.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Told {
    /// What was asked.
    pub step: StepIx,
    /// On which side.
    pub side: Side,
    /// What came.
    pub outcome: Outcome,
    /// Whether it was to standard.
    pub met: bool,
}

impl Told {
    /// An ask as it came out, judged by the standard of its day.
    pub fn of(course: &Course, on: NaiveDate, asked: &Asked) -> Told {
        let (outcome, met) = (asked.outcome(course), asked.met(course, on));
        Told { step: asked.step, side: asked.side, outcome, met }
    }

    /// Every ask of a day.
    ///
    /// ```
    /// use cavesson_core::{
    ///     belief::{Day, Work},
    ///     curriculum::{Curriculum, Side},
    ///     intake::Told,
    ///     response::{Answer, Rep, Weight},
    /// };
    /// let course = Curriculum::standard().course();
    /// let poll = course.find("S6@stand").unwrap();
    /// let heavy = Rep { answer: Answer::Gave, weight: Weight::Hand, time: None };
    /// let day = Day::new("2026-03-02".parse().unwrap(), vec![Work::reps(poll, Side::Both, vec![heavy; 2])]);
    /// let told: Vec<Told> = Told::of_day(&course, &day).collect();
    /// assert!(told.len() == 2 && !told[0].met, "a full hand is more than an egg");
    /// ```
    pub fn of_day<'d>(course: &'d Course, day: &'d Day) -> impl Iterator<Item = Told> + 'd {
        day.work.iter().flat_map(move |work| {
            let reps = work.reps.iter().map(|rep| Shown::Rep(*rep));
            let counts = work.counts.iter().map(|count| Shown::Count(count.clone()));
            reps.chain(counts).map(move |shown| {
                let asked = Asked { step: work.step, side: work.side, shown, faults: vec![], at: None };
                Told::of(course, day.date, &asked)
            })
        })
    }
}

/// A side of a step, by its place in the network.
pub(super) type Node = usize;

/// How likely a side is owned where all that it rests on is,
pub(super) const ON_OWNED: f64 = 0.8;
/// and where something is not.
pub(super) const OVER_A_HOLE: f64 = 0.1;
/// How likely the brake is there on a horse that is said to be ridden, before it is asked.
const BRAKE: f64 = 0.85;
/// By how much the odds of a side grow where the other side is owned, and shrink where it is not.
pub(super) const SIDES_AGREE: f64 = 1.6;
/// By how much the odds grow where it is claimed.
const CLAIMED: f64 = 3.0;

/// How likely an answer is of a side that is owned, and of one that is not (a horse that does not know half guesses).
fn likelihood(told: &Told) -> (f64, f64) {
    match (told.met, told.outcome) {
        (true, _) => (0.82, 0.33),
        (false, Outcome::Gave | Outcome::Tried) => (0.16, 0.42),
        (false, Outcome::None) => (0.02, 0.25),
    }
}

/// How likely an answer to standard is of a side that is owned, and of one that is not.
pub(super) const MET: (f64, f64) = (0.82, 0.33);

/// The network.
#[derive(Debug)]
pub(super) struct Network<'c> {
    pub(super) course: &'c Course,
    pub(super) nodes: Vec<(StepIx, Side)>,
    by_side: BTreeMap<(StepIx, Side), Node>,
    pub(super) parents: Vec<Vec<Node>>,
    pub(super) children: Vec<Vec<Node>>,
    /// The other side of the same step.
    pub(super) sibling: Vec<Option<Node>>,
    /// Logarithm of the odds that claims and answers add.
    pub(super) evidence: Vec<f64>,
    /// Asks of each so far.
    pub(super) asked: Vec<usize>,
}

/// Whether an intake ride is about a step: ridden in the pen, without cattle, flag, pattern or a new bit.
fn is_about(course: &Course, ix: StepIx) -> bool {
    let step = course.step(ix);
    let subject = matches!(
        step.work.subject,
        SubjectKind::Ground | SubjectKind::Softness | SubjectKind::Stop | SubjectKind::Turn | SubjectKind::Lope
    );
    subject && step.taught && step.ridden && step.gait < Gait::Run && step.work.places.contains(&Place::Arena)
}

impl<'c> Network<'c> {
    pub(super) fn new<'t>(
        course: &'c Course,
        claims: &[Claim],
        answers: impl IntoIterator<Item = &'t Told>,
    ) -> Network<'c> {
        let steps = (0..course.steps().len()).filter(|&ix| is_about(course, ix));
        let nodes: Vec<(StepIx, Side)> =
            steps.flat_map(|ix| course.step(ix).sides.list().iter().map(move |&side| (ix, side))).collect();
        let by_side: BTreeMap<(StepIx, Side), Node> = nodes.iter().enumerate().map(|(n, &key)| (key, n)).collect();
        let rests_on = |&(ix, side): &(StepIx, Side)| {
            let needs = course.step(ix).needs.iter();
            let sided = needs.flat_map(|&need| {
                let sides = course.step(need).sides.list().iter();
                // Left rests on left; what has no sides rests on both, and what has some on what has none.
                sides.filter(move |&&s| side == Side::Both || s == Side::Both || s == side).map(move |&s| (need, s))
            });
            sided.filter_map(|key| by_side.get(&key).copied()).collect::<Vec<Node>>()
        };
        let parents: Vec<Vec<Node>> = nodes.iter().map(rests_on).collect();
        let mut children = vec![vec![]; nodes.len()];
        for (child, above) in parents.iter().enumerate() {
            above.iter().for_each(|&parent| children[parent].push(child));
        }
        let sibling = nodes.iter().map(|(ix, side)| by_side.get(&(*ix, side.mirrored())).copied());
        let sibling = sibling.enumerate().map(|(n, other)| other.filter(|&o| o != n)).collect();
        let mut evidence = vec![0.0; nodes.len()];
        for claim in claims {
            let sides = course.step(claim.step).sides.list().iter();
            sides.filter_map(|&s| by_side.get(&(claim.step, s))).for_each(|&n| evidence[n] += f64::ln(CLAIMED));
        }
        let mut asked = vec![0; nodes.len()];
        for told in answers {
            let Some(&n) = by_side.get(&(told.step, told.side)) else { continue };
            let (owned, not) = likelihood(told);
            evidence[n] += (owned / not).ln();
            asked[n] += 1;
        }
        Network { course, nodes, by_side, parents, children, sibling, evidence, asked }
    }

    pub(super) fn find(&self, step: StepIx, side: Side) -> Option<Node> {
        self.by_side.get(&(step, side)).copied()
    }

    /// How likely a node is owned where all that it rests on is.
    pub(super) fn on_owned(&self, node: Node) -> f64 {
        let (ix, _) = self.nodes[node];
        let is_first_brake = self.parents[node].is_empty() && self.course.step(ix).rung == ONE_REIN_STOP;
        if is_first_brake { BRAKE } else { ON_OWNED }
    }
}
