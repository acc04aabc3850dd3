//! A horse on its road from bit to bit: what it owns of it, and where it is.

use std::sync::Arc;

use cavesson_core::{
    advice::Status,
    curriculum::{BitRoad, Road, Stage, Step},
    ride::Mouthpiece,
};
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::SignedIn,
    services::{
        book::{Book, book},
        standing::{self, StandingOut, response::StepStanding},
    },
};

fn is_owned(steps: &[StepStanding], id: &str) -> bool {
    steps.iter().any(|s| s.id == id && s.status == Status::Owned)
}

/// A horse on its road.
pub(crate) struct OnRoad {
    pub(super) road: &'static Road,
    pub(super) book: Arc<Book>,
    standing: Arc<StandingOut>,
}

/// The road that a horse is on, with what it owns.
pub(crate) async fn road_of(app: &App, signed: &SignedIn, horse: Uuid) -> Result<OnRoad, Problem> {
    let book = book(app, &signed.scope, Some(horse)).await?;
    let standing = standing::of_horse(app, signed, horse).await?;
    Ok(OnRoad::of(book, standing))
}

impl OnRoad {
    /// The road that a horse with this curriculum is on, with what it owns.
    pub(crate) fn of(book: Arc<Book>, standing: Arc<StandingOut>) -> OnRoad {
        OnRoad { road: Road::picked(&book.curriculum), book, standing }
    }

    /// Whether it leads down from a big bit.
    pub(crate) fn is_step_down(&self) -> bool {
        self.road.id == BitRoad::Spoiled
    }

    /// Which stage is the first day in leverage, where its road has one.
    pub(super) fn first_day_stage(&self) -> Option<usize> {
        self.road.stage.iter().position(|s| s.once && self.road.id == BitRoad::Leverage)
    }

    /// The stage of the first day in leverage, and its rung.
    pub(crate) fn first_day(&self) -> Option<(&'static Stage, &'static str)> {
        let stage = &self.road.stage[self.first_day_stage()?];
        Some((stage, stage.rung.as_str()))
    }

    /// Whether a rung was ever asked.
    pub(crate) fn is_ridden(&self, rung: &str) -> bool {
        self.standing.steps.iter().any(|s| s.rung == rung && !s.sides.is_empty())
    }

    fn is_owned(&self, rung: &str) -> bool {
        let mut steps = self.book.course.steps().iter().filter(|s| s.rung == rung).peekable();
        steps.peek().is_some() && steps.all(|s| is_owned(&self.standing.steps, &s.id))
    }

    /// Names of the steps that a rung needs and that are not owned.
    pub(crate) fn not_owned_before(&self, rung: &str) -> Vec<String> {
        self.book.course.steps().iter().find(|s| s.rung == rung).map_or_else(Vec::new, |first| self.lacking(first))
    }

    fn lacking(&self, step: &Step) -> Vec<String> {
        let needs = step.needs.iter().map(|&ix| self.book.course.step(ix));
        needs.filter(|s| !is_owned(&self.standing.steps, &s.id)).map(|s| s.name.to_lowercase()).collect()
    }

    /// The stage that the horse is on by what it owns, or further where it wears what a later one does.
    pub(super) fn now(&self, worn: Option<Mouthpiece>) -> Option<usize> {
        let taught = |rung: &str| self.book.course.steps().iter().any(|s| s.rung == rung && s.taught);
        let by_rungs = self.road.stage_now(taught, |rung| self.is_owned(rung), |rung| self.is_ridden(rung))?;
        let by_bit = self.road.stage.iter().position(|s| s.mouthpiece.is_some() && s.mouthpiece == worn);
        Some(by_rungs.max(by_bit.unwrap_or(0)))
    }

    /// Why the rung of a stage is not owned: the call on the first of its steps that is not, or what that waits for.
    pub(super) fn why(&self, rung: &str) -> String {
        let mut steps = self.book.course.steps().iter().filter(|s| s.rung == rung);
        let Some(step) = steps.find(|s| !is_owned(&self.standing.steps, &s.id)) else {
            return "Every step of its rung is owned".into();
        };
        let call = self.standing.steps.iter().find(|s| s.id == step.id).and_then(|s| s.why.first());
        let lacking = self.lacking(step);
        match call {
            Some(why) => format!("{}. {why}", step.name),
            None if lacking.is_empty() => format!("{} was not asked yet", step.name),
            None => format!("{} waits for {}", step.name, lacking.join(", ")),
        }
    }
}
