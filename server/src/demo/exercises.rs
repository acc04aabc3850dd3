//! The demo's exercises: tries on the trail, set-ups and changes of lead, and runs that two people scored.

use cavesson_core::{
    count::ObstacleStage::{self, Crosses, FourFeet, Looks, OneFoot, Toward, TwoFeet},
    exercise::{ChangeCheck, ChangePlace, ExerciseEvent, LeadChange, LopeSetUp, ObstacleTry, SetUpTold},
    figure::{Figure, Manoeuvre, Obstacle, Places, READY, manoeuvres, ride},
    pattern::Hand,
    score::MarkGiven,
};
use cavesson_store::{
    Scope,
    exercise::{self, NewExercise},
    log::bulk::WholeRide,
    score::{self, KeptManoeuvre, NewRun},
    stride::{self, Strides},
};
use chrono::{Days, Duration, NaiveDate, NaiveTime};
use rand::{Rng, RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;
use sqlx::PgPool;
use uuid::Uuid;

use super::{
    id,
    people::{DELL, MARA},
};

/// How far back exercises go, days.
const LOG: u64 = 28;
/// The horse on the trail, and the one that is set up and changed.
const ON_THE_TRAIL: &str = "Thistle";
const CHANGED: &str = "Hollis";
/// The horse whose runs are scored.
const SCORED: &str = "Ransom";

/// Three days at obstacles: how far each try got, and the side that it leaked to.
type Day = (Obstacle, &'static [(ObstacleStage, Option<Hand>)]);
const DAYS_OUT: [&[Day]; 3] = [
    &[(Obstacle::Bridge, &[(Looks, None), (Toward, Some(Hand::Right)), (OneFoot, Some(Hand::Right)), (TwoFeet, None)])],
    &[
        (Obstacle::Bridge, &[(TwoFeet, Some(Hand::Right)), (FourFeet, None), (Crosses, None), (Crosses, None)]),
        (Obstacle::Water, &[(Looks, None), (Toward, None)]),
    ],
    &[
        (Obstacle::Bridge, &[(Crosses, None), (Crosses, None)]),
        (Obstacle::Water, &[(Toward, Some(Hand::Left)), (OneFoot, Some(Hand::Left)), (TwoFeet, None)]),
        (Obstacle::Plank, &[(Looks, None), (OneFoot, Some(Hand::Right)), (OneFoot, Some(Hand::Right))]),
    ],
];

/// Puts what came of exercises there, with runs that were scored and strides that were measured.
pub(super) async fn load(db: &PgPool, scope: &Scope, rides: &[WholeRide], today: NaiveDate) -> anyhow::Result<()> {
    let mut rng = ChaCha8Rng::seed_from_u64(19);
    let mut events = vec![];
    for (ride, day) in latest(rides, ON_THE_TRAIL, today).into_iter().rev().take(DAYS_OUT.len()).rev().zip(DAYS_OUT) {
        let tries = day.iter().flat_map(|(obstacle, tries)| tries.iter().map(move |of| (*obstacle, *of)));
        for (n, (obstacle, (reached, leaked))) in tries.enumerate() {
            let of = ObstacleTry { reached, leaked };
            log(&mut events, ride, n, ExerciseEvent::Try { obstacle, name: obstacle.named().to_owned(), of });
        }
    }
    for ride in latest(rides, CHANGED, today) {
        for n in 0..8 {
            log(&mut events, ride, n, ExerciseEvent::SetUp { of: set_up(&mut rng) });
        }
        if rng.random_bool(0.4) {
            log(&mut events, ride, 8, ExerciseEvent::Change { of: change(&mut rng) });
        }
    }
    exercise::put_all(db, scope, &events).await?;
    let strides = Strides { walk: Some(1.34), jog: Some(2.05), lope: Some(2.25), version: 0 };
    stride::put(db, scope, id(ON_THE_TRAIL), &strides).await?;
    scored(db, scope, today, &mut rng).await
}

/// The rides of a horse in the last weeks, in order.
fn latest<'r>(rides: &'r [WholeRide], horse: &str, today: NaiveDate) -> Vec<&'r WholeRide> {
    let since = today - Days::new(LOG);
    let of = |ride: &&WholeRide| {
        ride.horse_id == id(horse) && (since..today).contains(&ride.ridden_on) && !ride.sets.is_empty()
    };
    let mut own: Vec<&WholeRide> = rides.iter().filter(of).collect();
    own.sort_by_key(|ride| ride.ridden_on);
    own
}

fn log(events: &mut Vec<(Uuid, Uuid, NewExercise)>, ride: &WholeRide, n: usize, event: ExerciseEvent) {
    let starts = ride.ridden_on.and_time(ride.starts_at.unwrap_or(NaiveTime::MIN)).and_utc();
    let at = starts + Duration::minutes(12) + Duration::seconds(75 * n as i64);
    let of = id(&format!("{}/exercise/{n}", ride.id));
    events.push((ride.id, of, NewExercise { at, event, removed: false, version: 1 }));
}

/// On the right lead it guesses more often.
fn set_up(rng: &mut impl Rng) -> LopeSetUp {
    let lead = if rng.random_bool(0.5) { Hand::Left } else { Hand::Right };
    let told = match rng.random_range(0..10) {
        0..3 => SetUpTold::Go,
        3..7 => SetUpTold::WalkOn,
        _ => SetUpTold::Wait,
    };
    LopeSetUp { lead, told, guessed: rng.random_bool(if lead == Hand::Left { 0.03 } else { 0.16 }) }
}

/// To the right it comes late behind now and then.
fn change(rng: &mut impl Rng) -> LeadChange {
    let to = if rng.random_bool(0.5) { Hand::Left } else { Hand::Right };
    let check = ChangeCheck { shoulders: true, hip: true, relaxed: true, straight: true, held: true };
    let late = to == Hand::Right && rng.random_bool(0.35);
    LeadChange {
        to,
        check,
        tenths: rng.random_bool(0.6).then(|| rng.random_range(0..3)),
        strides: late.then_some(1),
        lean: rng.random_bool(0.1).then_some(to),
        place: ChangePlace::ALL[rng.random_range(0..ChangePlace::ALL.len())],
    }
}

/// Three runs that two people scored, as one who gives a little less than the other would.
async fn scored(db: &PgPool, scope: &Scope, today: NaiveDate, rng: &mut impl Rng) -> anyhow::Result<()> {
    let figure = READY[0];
    let read = Figure::read(figure.text, &Places::new()).map_err(|_| anyhow::anyhow!("a ready figure has a fault"))?;
    let ridden = ride(&read).map_err(|_| anyhow::anyhow!("a ready figure cannot be ridden"))?;
    let parts: Vec<KeptManoeuvre> =
        manoeuvres(&ridden).into_iter().map(|Manoeuvre { name, rungs, .. }| KeptManoeuvre { name, rungs }).collect();
    for (n, days) in [16, 9, 2].into_iter().enumerate() {
        let run = id(&format!("scored/{n}"));
        let new = NewRun {
            horse_id: id(SCORED),
            day: today - Days::new(days),
            name: figure.name.to_owned(),
            body: figure.text.to_owned(),
            manoeuvres: parts.clone(),
        };
        score::put_run(db, scope, run, &new).await?;
        let marks: Vec<MarkGiven> = parts
            .iter()
            .map(|part| {
                let change = part.name.starts_with("Change");
                let score = rng.random_range(if change { -3..1 } else { -1..3 });
                MarkGiven { score: Some(score), penalties: if change && n == 0 { vec![2] } else { vec![] } }
            })
            .collect();
        let other = |mark: &MarkGiven| {
            let off = if rng.random_bool(0.35) { -1 } else { 0 };
            MarkGiven { score: mark.score.map(|score| (score + off).max(-3)), penalties: mark.penalties.clone() }
        };
        let theirs: Vec<MarkGiven> = marks.iter().map(other).collect();
        score::put_sheet(db, &scope.for_person(id(MARA)), run, 1, &marks, true).await?;
        score::put_sheet(db, &scope.for_person(id(DELL)), run, 1, &theirs, true).await?;
    }
    Ok(())
}
