//! What is known of a horse that figures are held against.

use std::{collections::BTreeSet, sync::Arc};

use cavesson_core::{
    advice::Status,
    curriculum::{Curriculum, Gait, Side},
    figure::{FigureGait, FigureHorse, RungAsked},
    pattern::Hand,
};
use cavesson_store::{
    horse,
    stride::{self, Strides},
};
use chrono::NaiveDate;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::SignedIn,
    services::{
        barn_clock::today,
        book::{Book, books},
        standing::{
            ahead::ForecastOut,
            response::{StandingOut, StepStanding},
            standings,
        },
    },
};

/// A horse: its standing, the curriculum that it is on, and its strides.
pub(crate) struct Known {
    pub(super) standing: Arc<StandingOut>,
    pub(super) book: Arc<Book>,
    pub(super) strides: Strides,
    pub(super) today: NaiveDate,
}

/// How a rung stands with a horse.
#[derive(Debug, Clone, Copy, Default)]
pub(super) struct RungStanding {
    /// None where nothing is known of it.
    pub(super) status: Option<Status>,
    /// How likely it is at its standard today, 0 to 1, the worse of its sides and gaits; none where it was not asked.
    pub(super) ready: Option<f64>,
    /// How likely it is owned by the date that was asked, 0 to 1; none where it is owned today or it is too early to say.
    pub(super) chance: Option<f64>,
}

/// The side and the gait of a rung as a figure writes it: `S3 left`, `O1 jog`.
pub(super) fn parts(rung: &str) -> (&str, Option<Hand>, Option<FigureGait>) {
    let (rung, rest) = rung.split_once(' ').unwrap_or((rung, ""));
    (rung, rest.parse().ok(), rest.parse().ok())
}

impl Known {
    pub(crate) async fn of(app: &App, signed: &SignedIn, id: Uuid) -> Result<Known, Problem> {
        let horse = horse::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("horse"))?;
        let barn = cavesson_store::barn::get(&app.db, &signed.scope).await?;
        let today = today(app, signed).await?;
        let all = standings(app, &signed.scope, std::slice::from_ref(&horse), barn.posture, today).await?;
        let standing = all.get(&id).cloned().ok_or_else(|| Problem::missing("horse"))?;
        let book = books(app, &signed.scope, &[Some(id)]).await?.remove(0);
        let strides = stride::get(&app.db, &signed.scope, id).await?;
        Ok(Known { standing, book, strides, today })
    }

    /// As figures measure it: an ordinary horse with the strides that were measured.
    pub(super) fn horse(&self) -> FigureHorse {
        let Strides { walk, jog, lope, .. } = self.strides;
        FigureHorse::ordinary().striding([walk, jog, lope])
    }

    /// Whether strides of it were measured.
    pub(super) fn is_measured(&self) -> bool {
        let Strides { walk, jog, lope, .. } = self.strides;
        walk.or(jog).or(lope).is_some()
    }

    /// The name of a rung on this horse's curriculum.
    pub(super) fn name(&self, rung: &str) -> Option<String> {
        self.book.curriculum.rung(rung).map(|rung| rung.name.clone())
    }

    /// How a rung stands where it is asked, and by a date; the worst of the gaits that it is asked at.
    pub(super) fn standing_of(&self, asked: &RungAsked, by: Option<NaiveDate>) -> RungStanding {
        let (rung, hand, gait) = parts(&asked.rung);
        let gaits: BTreeSet<&str> = match gait {
            Some(gait) => [gait.word()].into(),
            None => asked.gaits.iter().map(|gait| gait.word()).collect(),
        };
        self.at_worst(rung, hand, &gaits, by)
    }

    /// How a rung stands on a side, at the worst of some gaits where it is taught at several.
    pub(super) fn at_worst(
        &self,
        rung: &str,
        hand: Option<Hand>,
        gaits: &BTreeSet<&str>,
        by: Option<NaiveDate>,
    ) -> RungStanding {
        let steps: Vec<&StepStanding> = self.standing.steps.iter().filter(|step| step.rung == rung).collect();
        let here = |gait: Gait| gaits.contains(gait.word());
        // What is taught at none of these gaits is asked as it is taught.
        let taught: &[Gait] = self.book.curriculum.rung(rung).map_or(&[], |rung| &rung.gaits);
        let is_here = taught.iter().copied().any(here);
        let mut of: Vec<&StepStanding> = steps.into_iter().filter(|step| !is_here || here(step.gait)).collect();
        // At a gait that waits for others yet, nothing is known of it.
        if is_here && taught.iter().any(|gait| here(*gait) && of.iter().all(|step| step.gait != *gait)) {
            of.clear();
        }
        let week = by.map(|by| ((by - self.today).num_days().max(0) / 7) as usize);
        let chance = |forecast: &ForecastOut| week.and_then(|week| forecast.by_week.get(week).copied());
        let all = of.iter().map(|step| {
            let (status, ready) = side_of(step, hand);
            let owned = status == Status::Owned;
            let by_then = step.forecast.as_ref().filter(|_| !owned).and_then(chance);
            RungStanding { status: Some(status), ready, chance: by_then }
        });
        let sure = |it: &RungStanding| it.ready.unwrap_or(-1.0);
        let worst = all.min_by(|a, b| {
            let owned = |it: &RungStanding| it.status == Some(Status::Owned);
            owned(a).cmp(&owned(b)).then(sure(a).total_cmp(&sure(b)))
        });
        worst.unwrap_or_else(|| {
            let is_it = |id: &str| {
                let (of, gait) = id.split_once('@').map_or((id, None), |(of, gait)| (of, Some(gait)));
                of == rung && gait.is_none_or(|gait| !is_here || gaits.contains(gait))
            };
            let waits = self.standing.waiting.iter().find(|step| is_it(&step.id));
            RungStanding { chance: waits.and_then(|step| chance(&step.forecast)), ..RungStanding::default() }
        })
    }
}

/// The status of a step on a side, or of the whole step, and how sure it is at its standard.
fn side_of(step: &StepStanding, hand: Option<Hand>) -> (Status, Option<f64>) {
    let side = hand.map(|hand| if hand == Hand::Left { Side::Left } else { Side::Right });
    match side.and_then(|side| step.sides.iter().find(|s| s.side == side)) {
        Some(side) => (side.status, Some(side.ready)),
        None => (step.status, step.sides.iter().map(|side| side.ready).min_by(f64::total_cmp)),
    }
}

/// The name of a rung in the horse's curriculum, else in the standard one.
pub(super) fn rung_name(known: Option<&Known>, rung: &str) -> Option<String> {
    let standard = || Curriculum::standard().rung(rung).map(|rung| rung.name.clone());
    known.map_or_else(standard, |known| known.name(rung))
}

/// How the least owned of some rungs stands with a horse, as figures write them.
pub(crate) fn status_of(known: &Known, rungs: &[String]) -> Option<Status> {
    let all = rungs.iter().map(|asked| {
        let (rung, hand, gait) = parts(asked);
        let gaits = gait.iter().map(|gait| gait.word()).collect();
        known.at_worst(rung, hand, &gaits, None)
    });
    let least = all.min_by(|a, b| a.ready.unwrap_or(-1.0).total_cmp(&b.ready.unwrap_or(-1.0)))?;
    least.status
}
