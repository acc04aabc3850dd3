//! What a text tells of a ride besides its sets: who rode, where, in what, and how long.

use cavesson_core::{barn::Role, curriculum::Place, load::GaitMinutes};
use cavesson_formats::shorthand::{Lexicon, RideFacts};
use cavesson_store::{Scope, gear, ground, person};
use uuid::Uuid;

use crate::{App, Problem, services::places::Where};

/// The names that a barn knows.
pub(super) struct Known {
    riders: Vec<(String, Uuid)>,
    places: Vec<(String, Where)>,
    /// With the horse whose it is.
    gear: Vec<(String, Uuid, Uuid)>,
}

/// What was told of a ride.
#[derive(Debug, Clone, Default)]
pub(super) struct Told {
    pub(super) rider: Option<Uuid>,
    pub(super) at: Option<Where>,
    pub(super) gear: Option<Vec<Uuid>>,
    pub(super) minutes: Option<GaitMinutes>,
}

impl Known {
    pub(super) async fn of(app: &App, scope: &Scope) -> Result<Known, Problem> {
        let riders = person::in_barn(&app.db, scope).await?.into_iter().filter(|p| p.role != Role::Owner);
        let own = ground::list(&app.db, scope).await?;
        let own = own.into_iter().map(|g| (g.name, Where { place: g.place, ground: Some(g.id) }));
        let kinds = Place::ALL.into_iter().map(|place| (place.word().replace('-', " "), Where { place, ground: None }));
        // A ground that is called as a kind is meant by that name.
        let places: Vec<(String, Where)> = own.chain(kinds).collect();
        let gear = gear::names(&app.db, scope).await?;
        Ok(Known { riders: riders.map(|p| (p.name, p.id)).collect(), places, gear })
    }

    /// The shorthand's words with these names.
    pub(super) fn teach<'l>(&self, lexicon: Lexicon<'l>) -> Lexicon<'l> {
        let riders: Vec<String> = self.riders.iter().map(|r| r.0.clone()).collect();
        // Where two names look the same, the last one stays: the kinds come first.
        let places: Vec<String> = self.places.iter().rev().map(|p| p.0.clone()).collect();
        let gear: Vec<String> = self.gear.iter().map(|g| g.0.clone()).collect();
        lexicon.knowing(&riders, &places, &gear)
    }

    /// What facts mean on a horse.
    ///
    /// # Errors
    /// A piece of gear that is another horse's, in words.
    pub(super) fn resolve(&self, facts: &RideFacts, horse: Option<Uuid>) -> Result<Told, String> {
        let named = |name: &String| self.riders.iter().find(|r| r.0 == *name).map(|r| r.1);
        let at = |name: &String| self.places.iter().find(|p| p.0.eq_ignore_ascii_case(name)).map(|p| p.1);
        let piece = |name: &String| {
            let mine = self.gear.iter().find(|g| g.0.eq_ignore_ascii_case(name) && Some(g.1) == horse);
            mine.map(|g| g.2).ok_or_else(|| format!("this horse has no {name} among its gear"))
        };
        let gear = facts.gear.iter().map(piece).collect::<Result<Vec<_>, _>>()?;
        Ok(Told {
            rider: facts.rider.as_ref().and_then(named),
            at: facts.place.as_ref().and_then(at),
            gear: Some(gear).filter(|g| !g.is_empty()),
            minutes: facts.minutes,
        })
    }
}
