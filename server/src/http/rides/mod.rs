//! Rides: put on the day, ridden, closed; entered afterwards.

mod aliases;
pub(crate) mod around;
pub(crate) mod coach;
mod counts;
mod intake;
pub(crate) mod missed;
pub(crate) mod plan;
mod remedy;
pub(crate) mod reps;
pub(crate) mod response;
pub(crate) mod set_aside;
mod sets;
mod shorthand;
mod told;
mod unplaced;

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::{
    barn::{EntryMethod, RideState},
    curriculum::{Curriculum, Gait, Place},
    load::GaitMinutes,
};
use cavesson_store::{
    Put, StoreError, Update, gear,
    log::{
        rep::NewRep,
        ride::{self, NewRide, RideFields, get_or_restore},
        sets::{NewSet, put_sets},
    },
};
use chrono::{Days, NaiveDate, NaiveTime};
use serde::Deserialize;
use utoipa::ToSchema;
use utoipa_axum::{router::OpenApiRouter, routes};
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id},
        rides::{
            counts::{Counted, check_count},
            reps::{Answered, check_answer, check_asked},
            response::{RideDetail, one},
            sets::{SetIn, check_set, set_key},
        },
        validate::{Check, within_years},
    },
    services::{
        barn_clock::today,
        book::{Book, book},
        places::{self, Where},
    },
};

pub(crate) use crate::http::rides::response::RideOut;

/// The routes of this part.
pub(crate) fn routes() -> OpenApiRouter<App> {
    OpenApiRouter::new()
        .routes(routes!(response::of_horse))
        .routes(routes!(response::planned))
        .routes(routes!(reps::changes))
        .routes(routes!(response::read, put, change, drop_planned))
        .routes(routes!(missed::put, missed::take_back))
        .routes(routes!(reps::put))
        .routes(routes!(reps::correct))
        .routes(routes!(unplaced::list))
        .routes(routes!(unplaced::hand_in))
        .routes(routes!(unplaced::place))
        .routes(routes!(unplaced::discard))
        .routes(routes!(counts::put_count))
        .routes(routes!(counts::correct_count))
        .routes(routes!(sets::give_set))
        .routes(routes!(plan::read, plan::clear))
        .routes(routes!(plan::put_edit))
        .routes(routes!(plan::answer_check))
        .routes(routes!(coach::line))
        .routes(routes!(intake::read))
        .routes(routes!(coach::summary))
        .routes(routes!(shorthand::read_text))
        .routes(routes!(aliases::aliases, aliases::put_alias))
}

/// A rep of a ride entered afterwards.
#[derive(Deserialize, ToSchema)]
pub(crate) struct LateRep {
    id: Uuid,
    #[serde(flatten)]
    answered: Answered,
}

/// A set of a ride entered afterwards.
#[derive(Deserialize, ToSchema)]
pub(crate) struct LateSet {
    #[serde(flatten)]
    set: SetIn,
    #[serde(default)]
    reps: Vec<LateRep>,
    /// In place of reps, on a rung that is not counted in asks.
    #[serde(default)]
    counted: Option<Counted>,
}

/// A ride to put on a day, to begin, or to enter afterwards with its sets.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RideIn {
    horse_id: Uuid,
    rider_id: Uuid,
    #[serde(deserialize_with = "within_years")]
    date: NaiveDate,
    #[schema(value_type = Option<String>)]
    starts_at: Option<NaiveTime>,
    /// Where, if it is not said by the ground; else where it was planned or the horse was ridden last.
    #[serde(default)]
    place: Option<Place>,
    /// Which of the barn's own grounds.
    #[serde(default)]
    ground_id: Option<Uuid>,
    entered: EntryMethod,
    /// Only with `entered: afterwards`.
    #[serde(default)]
    sets: Vec<LateSet>,
    #[serde(default)]
    note: String,
    #[serde(default)]
    signs: Vec<String>,
    /// What it wore in the mouth or on the nose.
    #[serde(default)]
    bit: Option<String>,
    /// Whether it was too hot for hard work.
    #[serde(default)]
    hot: Option<bool>,
    /// Minutes by gait; only with `entered: afterwards`.
    #[serde(default)]
    minutes: Option<GaitMinutes>,
    /// Ids of what it wore, of the horse's own gear; only with `entered: afterwards`.
    #[serde(default)]
    gear: Option<Vec<Uuid>>,
}

/// A change to a ride, made from the version that was read.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RideChange {
    version: i32,
    rider_id: Uuid,
    #[schema(value_type = Option<String>)]
    starts_at: Option<NaiveTime>,
    place: Place,
    /// Which of the barn's own grounds; left out, it stays while the place does.
    #[serde(default)]
    ground_id: Option<Uuid>,
    state: RideState,
    note: String,
    signs: Vec<String>,
    #[serde(default)]
    bit: Option<String>,
    #[serde(default)]
    hot: Option<bool>,
    #[serde(default)]
    minutes: Option<GaitMinutes>,
}

/// Puts a ride on a day, or enters one afterwards with its sets, all or nothing. Under the id of a ride that was planned for that horse
/// and day, what is entered afterwards fills it.
#[utoipa::path(put, path = "/api/rides/{id}", params(("id" = Uuid, Path)), request_body = RideIn,
    responses((status = 200, body = RideDetail), (status = 201, body = RideDetail), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<RideIn>,
) -> Result<(StatusCode, Json<RideDetail>), Problem> {
    let book = book(&app, &signed.scope, Some(sent.horse_id)).await?;
    let late = checked(id, &sent, &book, today(&app, &signed).await?)?;
    let at = place_of(&app, &signed, id, &sent).await?;
    let state = if sent.entered == EntryMethod::Afterwards { RideState::Closed } else { RideState::Planned };
    let new = NewRide {
        horse_id: sent.horse_id,
        rider_id: sent.rider_id,
        ridden_on: sent.date,
        starts_at: sent.starts_at,
        place: at.place,
        ground_id: at.ground,
        state,
        entered: sent.entered,
        note: sent.note.trim().to_owned(),
        signs: sent.signs.clone(),
        bit: tidy(sent.bit.as_ref()),
        hot: sent.hot,
        minutes: sent.minutes,
    };
    let mut tx = app.db.begin().await.map_err(StoreError::from)?;
    let put = ride::put(&mut tx, &signed.scope, id, &new).await?;
    match put {
        Put::Taken => return Err(Problem::taken("ride")),
        Put::Missing => return Err(Problem::field("horse_id", "this horse or this rider is not in the barn now")),
        Put::Created | Put::Same => {}
    }
    if let Some(gear) = &sent.gear
        && !gear::set_for_ride(&mut tx, &signed.scope, id, gear).await?
    {
        return Err(Problem::field("gear", "pick from this horse's own gear"));
    }
    match put_sets(&mut tx, &signed.scope, &late).await? {
        Put::Created | Put::Same => {}
        Put::Taken | Put::Missing => return Err(Problem::taken("rep or set")),
    }
    tx.commit().await.map_err(StoreError::from)?;
    let status = if put == Put::Created { StatusCode::CREATED } else { StatusCode::OK };
    Ok((status, Json(one(&app, &signed, id).await?)))
}

/// Where a ride is: as it is said, else as it was planned under this id, else where the horse was ridden last.
async fn place_of(app: &App, signed: &SignedIn, id: Uuid, sent: &RideIn) -> Result<Where, Problem> {
    if let Some(at) = places::said(app, &signed.scope, sent.place, sent.ground_id).await? {
        return Ok(at);
    }
    if let Some(planned) = ride::get(&app.db, &signed.scope, id).await? {
        return Ok(Where { place: planned.place, ground: planned.ground_id });
    }
    let usual = places::usual(app, &signed.scope, &[sent.horse_id], sent.rider_id).await?;
    Ok(usual.get(&sent.horse_id).copied().unwrap_or(Where::UNKNOWN))
}

fn check_minutes(check: &mut Check, minutes: Option<GaitMinutes>) {
    let fits = minutes.is_none_or(|m| Gait::ALL.into_iter().all(|g| m.at(g) <= GaitMinutes::MOST));
    check.that(fits, "minutes", format!("a ride has at most {} minutes at a gait", GaitMinutes::MOST));
}

fn checked(id: Uuid, sent: &RideIn, book: &Book, today: NaiveDate) -> Result<Vec<NewSet>, Problem> {
    let mut check = Check::default();
    let latest = if sent.entered == EntryMethod::Afterwards { today } else { today + Days::new(60) };
    check.that(
        sent.date <= latest,
        "date",
        match sent.entered {
            EntryMethod::Afterwards => {
                format!("{} has not come yet; a ride entered afterwards is today's or older", sent.date)
            }
            EntryMethod::Pen => format!("{} is more than sixty days off", sent.date),
        },
    );
    let oldest = today - Days::new(366 * 40);
    check.that(sent.date >= oldest, "date", "this is more than forty years ago");
    check.that(
        sent.entered == EntryMethod::Afterwards || sent.sets.is_empty(),
        "sets",
        "sets come with a ride entered afterwards; in the pen, send reps one by one",
    );
    let late = sent.entered == EntryMethod::Afterwards;
    check.that(late || sent.minutes.is_none(), "minutes", "minutes come with a ride entered afterwards, or its close");
    check.that(late || sent.gear.is_none(), "gear", "gear comes with a ride entered afterwards");
    check_minutes(&mut check, sent.minutes);
    check_words(&mut check, &sent.note, &sent.signs, sent.bit.as_ref());
    check.that(sent.sets.len() <= 60, "sets", "at most sixty sets in a ride");
    let mut late = vec![];
    for (n, LateSet { set, reps, counted }) in sent.sets.iter().enumerate() {
        let at = format!("sets[{n}].");
        let rung = check_set(&mut check, &at, set, book);
        if let Some(counted) = counted {
            check.that(reps.is_empty(), &format!("{at}reps"), "a set has reps or a count, not both");
            let count = check_count(&mut check, &at, counted, rung);
            late.push(NewSet { key: set_key(id, set.clone()), reps: vec![], count });
            continue;
        }
        check_asked(&mut check, &format!("{at}rung"), rung);
        check.that((1..=200).contains(&reps.len()), &format!("{at}reps"), "a set has 1 to 200 reps");
        let reps = reps.iter().enumerate().map(|(m, r)| NewRep {
            id: r.id,
            position: m as i32,
            rep: check_answer(&mut check, &format!("{at}reps[{m}]."), &r.answered, rung),
            faults: r.answered.faults.clone(),
            asked_at: None,
        });
        late.push(NewSet { key: set_key(id, set.clone()), reps: reps.collect(), count: None });
    }
    check.done()?;
    Ok(late)
}

fn check_words(check: &mut Check, note: &str, signs: &[String], bit: Option<&String>) {
    check.note("note", note, 500);
    check.note("bit", bit.map_or("", String::as_str), 40);
    let known = |tag: &String| Curriculum::standard().signs().iter().any(|s| &s.tag == tag);
    check.that(signs.iter().all(known) && signs.len() <= 20, "signs", "pick signs from the list");
}

/// A bit that is only blanks is none.
fn tidy(bit: Option<&String>) -> Option<String> {
    bit.map(|b| b.trim().to_owned()).filter(|b| !b.is_empty())
}

/// Changes a ride: rider, hour, place, note, signs; begins or closes it.
#[utoipa::path(patch, path = "/api/rides/{id}", params(("id" = Uuid, Path)), request_body = RideChange,
    responses((status = 200, body = RideDetail), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn change(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<RideChange>,
) -> Result<Json<RideDetail>, Problem> {
    let ride = get_or_restore(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("ride"))?;
    let mut check = Check::default();
    check_words(&mut check, &sent.note, &sent.signs, sent.bit.as_ref());
    let begins = sent.state != RideState::Planned;
    let come = ride.ridden_on <= today(&app, &signed).await?;
    check_minutes(&mut check, sent.minutes);
    check.that(come || !begins, "state", format!("{} has not come yet; it cannot be ridden today", ride.ridden_on));
    check.done()?;
    let at = places::said(&app, &signed.scope, Some(sent.place), sent.ground_id).await?;
    let at = at.unwrap_or(Where { place: sent.place, ground: None });
    let fields = RideFields {
        rider_id: sent.rider_id,
        starts_at: sent.starts_at,
        place: at.place,
        ground_id: at.ground,
        state: sent.state,
        note: sent.note.trim().to_owned(),
        signs: sent.signs,
        bit: tidy(sent.bit.as_ref()),
        hot: sent.hot,
        minutes: sent.minutes,
    };
    match ride::update(&app.db, &signed.scope, id, sent.version, &fields).await? {
        Update::Done(ride) => {
            if begins {
                crate::http::rides::coach::begin(&app, &signed, &ride).await?;
            }
            Ok(Json(one(&app, &signed, id).await?))
        }
        Update::Stale(now) => Err(Problem::stale("ride", &RideOut::try_from(now)?)),
        Update::Missing => Err(Problem::missing("ride")),
    }
}

/// Takes a planned ride off the day. A ride with reps stays.
#[utoipa::path(delete, path = "/api/rides/{id}", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub(crate) async fn drop_planned(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
) -> Result<StatusCode, Problem> {
    if ride::drop_planned(&app.db, &signed.scope, id).await? {
        return Ok(StatusCode::NO_CONTENT);
    }
    match ride::get(&app.db, &signed.scope, id).await? {
        Some(_) => {
            Err(Problem::conflict("This ride was ridden; it stays in the record. Reps can be taken out one by one"))
        }
        None => Err(Problem::missing("ride")),
    }
}
