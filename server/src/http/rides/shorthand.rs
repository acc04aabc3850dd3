//! Rides from shorthand or from comma-separated values: read, shown word by word, and stored all or nothing.

use std::{collections::HashMap, sync::Arc};

use axum::{Json, extract::State};
use cavesson_core::{
    barn::{EntryMethod, RideState},
    curriculum::{Place, Side},
};
use cavesson_formats::{
    csv,
    shorthand::{
        AliasError, Diagnostic, Lexicon, ParsedLog, ParsedRide, Set, SetResult, Span, parse, write_facts, write_set,
    },
};
use cavesson_store::{
    Put, StoreError, gear, horse,
    log::{
        count::NewCount,
        rep::{NewRep, SetKey},
        ride::{self, NewRide, Ride},
        set,
        sets::{NewSet, put_sets},
    },
    planned,
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, FieldProblem, Problem,
    auth::{Rider, SignedIn, digest},
    http::{
        extract::Body,
        rides::told::{Known, Told},
        validate::{Check, within_years},
    },
    services::{
        barn_clock::today,
        book::book,
        places::{self, Where},
    },
};

/// How a text is written.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(crate) enum Form {
    /// The trainer's shorthand.
    Shorthand,
    /// Comma-separated values (RFC 4180).
    Csv,
}

/// A text to read.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ShorthandRequest {
    /// Made by the client: the same text sent again under it is stored once.
    id: Uuid,
    form: Form,
    /// At most 40 000 characters.
    #[schema(max_length = 40000)]
    text: String,
    /// Whose the rides are that name no horse.
    #[serde(default)]
    horse_id: Option<Uuid>,
    /// The day of rides that name none.
    #[serde(deserialize_with = "within_years")]
    date: NaiveDate,
    /// Where they were ridden; left out, where each was planned or its horse was ridden last.
    #[serde(default)]
    place: Option<Place>,
    /// Only say what would happen.
    dry_run: bool,
}

impl ShorthandRequest {
    /// The same for the same text, told of the same day, horse and place.
    fn digest(&self) -> Vec<u8> {
        let place = self.place.map_or("", Place::word);
        digest(&format!("{:?}\n{:?}\n{}\n{place}\n{}", self.form, self.horse_id, self.date, self.text))
    }
}

/// What a text says.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ShorthandResponse {
    rides: Vec<ParsedRideOut>,
    /// Every word that was understood.
    words: Vec<WordOut>,
    /// Everything that was not; nothing is stored while there is any.
    diagnostics: Vec<DiagnosticOut>,
    stored: bool,
}

/// A ride that was read.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ParsedRideOut {
    /// The line it begins on, from 1.
    line: usize,
    horse_id: Option<Uuid>,
    horse: String,
    date: NaiveDate,
    sets: Vec<ParsedSetOut>,
    note: String,
    signs: Vec<String>,
    /// What else is told of it, as it was read: `Dell Okafor, Back pasture`.
    told: String,
    /// The planned ride that it fills: `the ride planned for 07:45 with Mara Quill`.
    fills: Option<String>,
}

/// A set that was read.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ParsedSetOut {
    /// `Flexion, left: 6 of 8, an egg, 1.5 s`.
    says: String,
    side: Side,
    /// As the shorthand writes it.
    shorthand: String,
}

/// A word that was understood. Columns are from 1; `to` is the last.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct WordOut {
    line: usize,
    from: usize,
    to: usize,
    says: String,
}

/// Something that was not understood.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct DiagnosticOut {
    line: usize,
    from: usize,
    to: usize,
    says: String,
    /// The nearest word that is known.
    nearest: Option<String>,
}

struct Whole<'s> {
    ride: &'s ParsedRide,
    horse: Option<(Uuid, String)>,
    date: NaiveDate,
    /// The planned ride that it fills, where there is just one on its day.
    fills: Option<Ride>,
    /// What else is told of it.
    told: Told,
}

/// Gives each ride the one planned ride of its horse and day; the second of a text for one of them stays a ride of its own.
async fn match_planned(app: &App, signed: &SignedIn, wholes: &mut [Whole<'_>]) -> Result<(), Problem> {
    let day = |w: &Whole<'_>| w.horse.as_ref().map(|h| (h.0, w.date)).filter(|_| !w.ride.sets.is_empty());
    let days: Vec<(Uuid, NaiveDate)> = wholes.iter().filter_map(day).collect();
    let mut planned: HashMap<(Uuid, NaiveDate), Vec<Ride>> = HashMap::new();
    for ride in ride::planned_of(&app.db, &signed.scope, &days).await? {
        planned.entry((ride.horse_id, ride.ridden_on)).or_default().push(ride);
    }
    for whole in wholes {
        let found = day(whole).and_then(|key| planned.remove(&key));
        whole.fills = found.filter(|rides| rides.len() == 1).and_then(|mut rides| rides.pop());
    }
    Ok(())
}

fn fills_in_words(ride: &Ride) -> String {
    let at = ride.starts_at.map(|t| format!(" for {}", t.format("%H:%M"))).unwrap_or_default();
    format!("the ride planned{at} with {}", ride.rider_name)
}

/// Reads a text; stores its rides all at once where it is not a dry run and nothing in it is wrong.
#[utoipa::path(post, path = "/api/shorthand", request_body = ShorthandRequest,
    responses((status = 200, body = ShorthandResponse), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn read_text(
    State(app): State<App>,
    Rider(signed): Rider,
    Body(sent): Body<ShorthandRequest>,
) -> Result<Json<ShorthandResponse>, Problem> {
    let mut check = Check::default();
    check.that(sent.text.chars().count() <= 40_000, "text", "a text has at most 40 000 characters");
    check.that(!sent.text.contains('\0'), "text", "this holds a character that cannot be stored");
    let today = today(&app, &signed).await?;
    check.that(sent.date <= today, "date", "this day has not come yet");
    check.done()?;
    let horses = horse::list(&app.db, &signed.scope, false, 0, 1000).await?.items;
    let names: HashMap<&str, Uuid> = horses.iter().map(|h| (h.name.as_str(), h.id)).collect();
    let whose = match sent.horse_id {
        None => None,
        Some(id) => {
            let found = horses.iter().find(|h| h.id == id);
            Some(found.map(|h| (h.id, h.name.clone())).ok_or_else(|| Problem::missing("horse"))?)
        }
    };
    let book = book(&app, &signed.scope, None).await?;
    let aliases = planned::aliases(&app.db, &signed.scope).await?;
    let known: Vec<(String, String)> =
        aliases.into_iter().filter(|(_, rung)| book.curriculum.rung(rung).is_some()).collect();
    let horse_names: Vec<String> = horses.iter().map(|h| h.name.clone()).collect();
    let names_of_barn = Arc::new(Known::of(&app, &signed.scope).await?);
    let mut all = {
        let (book, names_of_barn) = (Arc::clone(&book), Arc::clone(&names_of_barn));
        let (text, form) = (sent.text.clone(), sent.form);
        let read = app.compute.run(signed.scope.shared(), move || {
            let lexicon = names_of_barn.teach(Lexicon::new(&book.curriculum, &known, &horse_names)?);
            Ok::<_, AliasError>(match form {
                Form::Shorthand => parse(&text, &lexicon),
                Form::Csv => csv::read(&text, &lexicon),
            })
        });
        read.await?.map_err(|error| Problem::field("text", error.to_string()))?
    };
    let mut amiss = vec![];
    let mut wholes: Vec<Whole<'_>> = all
        .rides
        .iter()
        .map(|ride| {
            let own = ride.horse.as_deref().and_then(|n| names.get(n).map(|id| (*id, n.to_owned())));
            let horse = if ride.horse.is_some() { own } else { whose.clone() };
            let date = ride.date.unwrap_or(sent.date);
            let span = Span { line: ride.line, from: 0, to: 1 };
            if horse.is_none() && !ride.sets.is_empty() && ride.horse.is_none() {
                amiss.push(Diagnostic {
                    span,
                    says: "whose ride? begin it with a horse and a colon".into(),
                    nearest: None,
                });
            }
            if date > today {
                amiss.push(Diagnostic { span, says: format!("{date} has not come yet"), nearest: None });
            }
            let told = names_of_barn.resolve(&ride.facts, horse.as_ref().map(|h| h.0));
            let told = told.unwrap_or_else(|says| {
                amiss.push(Diagnostic { span, says, nearest: None });
                Told::default()
            });
            Whole { ride, horse, date, fills: None, told }
        })
        .collect();
    match_planned(&app, &signed, &mut wholes).await?;
    if !sent.dry_run && all.diagnostics.is_empty() && amiss.is_empty() {
        store(&app, &signed, &sent, &wholes).await?;
    }
    let mut out = told(&wholes, &book);
    all.diagnostics.extend(amiss);
    told_words(&mut out, &all);
    if !sent.dry_run && !out.diagnostics.is_empty() {
        return Err(Problem::fields(out.diagnostics.iter().map(as_field).collect()));
    }
    out.stored = !sent.dry_run;
    Ok(Json(out))
}

fn as_field(t: &DiagnosticOut) -> FieldProblem {
    let nearest = t.nearest.as_ref().map(|n| format!("; is it {n}?")).unwrap_or_default();
    FieldProblem { field: "text".into(), detail: format!("Line {}, column {}: {}{nearest}", t.line, t.from, t.says) }
}

fn told(wholes: &[Whole<'_>], book: &crate::services::book::Book) -> ShorthandResponse {
    let rides = wholes.iter().map(|w| ParsedRideOut {
        line: w.ride.line + 1,
        horse_id: w.horse.as_ref().map(|h| h.0),
        horse: w.horse.as_ref().map(|h| h.1.clone()).unwrap_or_default(),
        date: w.date,
        sets: w.ride.sets.iter().map(|s| set_out(s, book)).collect(),
        note: w.ride.note.clone(),
        signs: w.ride.signs.clone(),
        told: write_facts(&w.ride.facts),
        fills: w.fills.as_ref().map(fills_in_words),
    });
    ShorthandResponse { rides: rides.collect(), words: vec![], diagnostics: vec![], stored: false }
}

fn told_words(out: &mut ShorthandResponse, all: &ParsedLog) {
    let at = |s: Span| (s.line + 1, s.from + 1, s.to.max(s.from + 1));
    out.words = all
        .words
        .iter()
        .map(|w| {
            let (line, from, to) = at(w.span);
            WordOut { line, from, to, says: w.says.clone() }
        })
        .collect();
    out.diagnostics = all
        .diagnostics
        .iter()
        .map(|t| {
            let (line, from, to) = at(t.span);
            DiagnosticOut { line, from, to, says: t.says.clone(), nearest: t.nearest.clone() }
        })
        .collect();
}

fn set_out(set: &Set, book: &crate::services::book::Book) -> ParsedSetOut {
    let step = book.course.find_at(&set.rung, set.gait).map(|ix| book.course.step(ix).name.clone());
    let name = step.unwrap_or_else(|| set.rung.clone());
    let side = if set.side == Side::Both { String::new() } else { format!(", {}", set.side) };
    let came = match &set.result {
        SetResult::Reps { gave, tried, none } => {
            let all = u16::from(*gave) + u16::from(*tried) + u16::from(*none);
            let tried = if *tried > 0 { format!(" and {tried} tried") } else { String::new() };
            let time = set.time.map(|t| format!(", {t}")).unwrap_or_default();
            let faults = if set.faults.is_empty() { String::new() } else { format!(", {}", set.faults.join(", ")) };
            format!("{gave}{tried} of {all}, {}{time}{faults}", set.weight.phrase())
        }
        SetResult::Counted(count) => {
            let faults = if set.faults.is_empty() { String::new() } else { format!(", {}", set.faults.join(", ")) };
            format!("{}{faults}", count.in_words())
        }
    };
    ParsedSetOut { says: format!("{name}{side}: {came}"), side: set.side, shorthand: write_set(set) }
}

async fn store(app: &App, signed: &SignedIn, sent: &ShorthandRequest, wholes: &[Whole<'_>]) -> Result<(), Problem> {
    let horses: Vec<Uuid> = wholes.iter().filter_map(|w| Some(w.horse.as_ref()?.0)).collect();
    let usual = places::usual(app, &signed.scope, &horses, signed.scope.person()).await?;
    let mut tx = app.db.begin().await.map_err(StoreError::from)?;
    match set::note_written(&mut tx, &signed.scope, sent.id, &sent.digest()).await? {
        Put::Created => {}
        Put::Same => return Ok(()),
        Put::Taken | Put::Missing => return Err(Problem::taken("text")),
    }
    let mut sets = vec![];
    let id_of = |n: usize, what: &str| Uuid::new_v5(&sent.id, format!("{n}/{what}").as_bytes());
    // A text that is sent again has its sets in the rides that they filled.
    let firsts: Vec<Uuid> = (0..wholes.len()).map(|n| id_of(n, "set 0")).collect();
    let stored = set::stored(&mut tx, &signed.scope, &firsts).await?;
    for (n, whole) in wholes.iter().enumerate() {
        let Some((horse, _)) = whole.horse.as_ref().filter(|_| !whole.ride.sets.is_empty()) else { continue };
        if stored.contains(&firsts[n]) {
            continue;
        }
        let own = |what: &str| id_of(n, what);
        let fills = whole.fills.as_ref();
        let id = fills.map_or_else(|| own("ride"), |r| r.id);
        let planned = fills.map(|r| Where { place: r.place, ground: r.ground_id });
        let said = || sent.place.map(|place| Where { place, ground: None });
        let last = || usual.get(horse).copied();
        let at = whole.told.at.or(planned).or_else(said).or_else(last).unwrap_or(Where::UNKNOWN);
        let new = NewRide {
            horse_id: *horse,
            rider_id: whole.told.rider.or(fills.map(|r| r.rider_id)).unwrap_or(signed.scope.person()),
            ridden_on: whole.date,
            starts_at: None,
            place: at.place,
            ground_id: at.ground,
            state: RideState::Closed,
            entered: EntryMethod::Afterwards,
            note: whole.ride.note.clone(),
            signs: whole.ride.signs.clone(),
            bit: None,
            hot: None,
            minutes: whole.told.minutes,
        };
        match ride::put(&mut tx, &signed.scope, id, &new).await? {
            Put::Created => {}
            Put::Same => continue,
            Put::Taken => return Err(Problem::taken("text")),
            Put::Missing => return Err(Problem::field("horse_id", "this horse is not in the barn now")),
        }
        if let Some(gear) = &whole.told.gear
            && !gear::set_for_ride(&mut tx, &signed.scope, id, gear).await?
        {
            return Err(Problem::field("text", "this gear is not the horse's any more; read the text again"));
        }
        sets.extend(whole.ride.sets.iter().enumerate().map(|(m, set)| new_set(set, m, id, own)));
    }
    if let Put::Taken | Put::Missing = put_sets(&mut tx, &signed.scope, &sets).await? {
        return Err(Problem::taken("text"));
    }
    tx.commit().await.map_err(StoreError::from)?;
    Ok(())
}

/// A set of a text, with ids that are the same whenever the same text is sent.
fn new_set(set: &Set, at: usize, ride: Uuid, own: impl Fn(&str) -> Uuid) -> NewSet {
    let key = SetKey {
        id: own(&format!("set {at}")),
        ride_id: ride,
        position: at as i32,
        rung: set.rung.clone(),
        gait: set.gait,
        side: set.side,
        rider_id: None,
        cow: None,
    };
    let count = match &set.result {
        SetResult::Counted(count) => {
            Some(NewCount { count: count.clone(), faults: set.faults.clone(), asked_at: None })
        }
        SetResult::Reps { .. } => None,
    };
    let rep = |(k, (rep, faults))| NewRep {
        id: own(&format!("rep {at}/{k}")),
        position: k as i32,
        rep,
        faults,
        asked_at: None,
    };
    NewSet { key, reps: set.reps().into_iter().enumerate().map(rep).collect(), count }
}
