//! What stands around rides of a day when they are planned: read at once, however many they are.

use std::collections::HashMap;

use cavesson_core::{
    barn::{Ground, Role},
    curriculum::Hands,
    load::Weather,
    ride::Conditions,
};
use cavesson_store::{
    Scope,
    barn::Barn,
    gear::{self, Gear},
    ground,
    horse::Horse,
    layoff::{self, KeptLayOff},
    log::ride::{self, Ride},
    person,
    planned::{self, Checked},
};
use chrono::NaiveDate;
use futures_util::future::{try_join, try_join5};
use uuid::Uuid;

use crate::{
    App, Problem,
    weather::{Known, hour_of, told_at},
};

/// What rides of one day are planned with.
pub(crate) struct AroundRides {
    time_zone: String,
    /// The air of the day, where someone typed it in.
    air: Option<Weather>,
    /// The latest time off of each horse that it is still coming back from.
    layoffs: Vec<KeptLayOff>,
    /// By horse.
    notes: HashMap<Uuid, String>,
    last_worn: Vec<(Uuid, Uuid)>,
    gear: Vec<Gear>,
    /// By ride.
    edits: Vec<(Uuid, planned::Edit)>,
    answered: Vec<Checked>,
    picked: Vec<(Uuid, Uuid)>,
    roles: Vec<(Uuid, Role)>,
    grounds: HashMap<Uuid, Ground>,
}

/// The same of one ride.
pub(super) struct AroundRide {
    pub(super) edits: Vec<planned::Edit>,
    pub(super) answered: Vec<Checked>,
    /// Ids of what it is ridden in.
    pub(super) worn: Vec<Uuid>,
    /// Those pieces of it that are in use.
    pub(super) gear: Vec<Gear>,
    pub(super) ground: Option<Ground>,
    pub(super) air: Option<Known>,
    pub(super) conditions: Conditions,
}

impl AroundRides {
    /// Reads what the plans of these rides of a day follow from, besides their horses.
    pub(crate) async fn read(
        app: &App,
        scope: &Scope,
        barn: &Barn,
        day: NaiveDate,
        rides: &[Ride],
    ) -> Result<AroundRides, Problem> {
        let db = &app.db;
        let column = |of: fn(&Ride) -> Uuid| rides.iter().map(of).collect::<Vec<Uuid>>();
        let (ids, horses, riders) = (column(|r| r.id), column(|r| r.horse_id), column(|r| r.rider_id));
        let on: Vec<Uuid> = rides.iter().filter_map(|r| r.ground_id).collect();
        let of_rides = try_join5(
            planned::edits(db, scope, &ids),
            planned::checks(db, scope, &ids),
            gear::of_rides(db, scope, &ids),
            person::roles(db, scope, &riders),
            ground::several(db, scope, &on),
        );
        let of_horses = try_join5(
            layoff::current(db, scope),
            ride::last_notes(db, scope, &horses, day),
            gear::of_last_rides(db, scope, &horses, day),
            gear::of_horses(db, scope, &horses, day),
            planned::weather(db, scope, day),
        );
        let ((edits, answered, picked, roles, grounds), (layoffs, notes, last_worn, gear, air)) =
            try_join(of_rides, of_horses).await?;
        Ok(AroundRides {
            time_zone: barn.time_zone.clone(),
            air,
            layoffs,
            notes: notes.into_iter().map(|(horse, _, note)| (horse, note)).collect(),
            last_worn,
            gear,
            edits,
            answered,
            picked,
            roles,
            grounds: grounds.into_iter().map(|g| (g.id, g.ground())).collect(),
        })
    }

    /// What stands around one of them on its horse.
    pub(super) fn of_ride(&self, app: &App, ride: &Ride, horse: &Horse) -> AroundRide {
        let air = told_at(app, self.air, ride.ridden_on, hour_of(ride.starts_at, &self.time_zone));
        let worn = self.worn(ride);
        let gear = self.gear.iter().filter(|g| g.horse_id == ride.horse_id && worn.contains(&g.id));
        let off = self.layoffs.iter().find(|l| l.horse_id == ride.horse_id);
        AroundRide {
            edits: of(&self.edits, ride.id).cloned().collect(),
            answered: self.answered.iter().filter(|a| a.ride_id == ride.id).cloned().collect(),
            gear: gear.cloned().collect(),
            ground: ride.ground_id.and_then(|id| self.grounds.get(&id).copied()),
            conditions: Conditions {
                place: ride.place,
                hands: of(&self.roles, ride.rider_id).next().map_or(Hands::Trainer, |role| role.hands()),
                heat: air.map(|(air, _)| air.band()).unwrap_or_default(),
                note: self.notes.get(&ride.horse_id).cloned().unwrap_or_default(),
                traits: horse.traits.clone(),
                comeback: off.and_then(|l| l.layoff().on(ride.ridden_on)),
            },
            worn,
            air,
        }
    }

    /// The gear of their horses.
    pub(crate) fn gear(&self) -> &[Gear] {
        &self.gear
    }

    /// What was picked for a ride; else what the horse wore last.
    fn worn(&self, ride: &Ride) -> Vec<Uuid> {
        let picked: Vec<Uuid> = of(&self.picked, ride.id).copied().collect();
        if picked.is_empty() { of(&self.last_worn, ride.horse_id).copied().collect() } else { picked }
    }
}

/// What of a list belongs to one.
fn of<T>(list: &[(Uuid, T)], whose: Uuid) -> impl Iterator<Item = &T> {
    list.iter().filter(move |of| of.0 == whose).map(|of| &of.1)
}
