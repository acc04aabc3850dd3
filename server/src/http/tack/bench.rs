//! What a piece does under a hand: for every weight from a feather to a tug, so that the page can follow a hand that moves.

use axum::Json;
use cavesson_core::{
    response::Weight,
    tack::{Chin, HandScale, Hung, INCH, Measures, TakesHold, Turned, snaffle, tack_cautions},
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::sound;
use crate::{Problem, auth::Rider, http::extract::Body};

/// The lightest and the heaviest weight on one rein that is answered, newtons, and how many there are.
const WEIGHTS: (f64, f64, usize) = (0.05, 60.0, 96);
/// A strap is let out or taken up by this, metres: an eighth of an inch.
const A_LITTLE: f64 = INCH / 8.0;

/// A piece and the direction of the rein.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct BenchIn {
    measures: Measures,
    /// The rein's rise to the hand over level, radians.
    rise: f64,
    /// How far the nose is out from plumb, radians.
    nose_out: f64,
}

/// The strap with an eighth of an inch more or less.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct StrapOut {
    slack: f64,
    tight: Option<f64>,
    takes_hold: TakesHold,
}

/// A leverage bit as it hangs: metres and radians.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct HungOut {
    chin_behind: f64,
    chin_below: f64,
    /// The turn at which the strap is tight.
    tight: Option<f64>,
    /// The turn at which rein, shank and mouthpiece are in line.
    over: f64,
    takes_hold: TakesHold,
    /// What that means.
    means: &'static str,
    most_slack: f64,
    lever_by_length: f64,
    lever_at_rest: f64,
    lever_tight: Option<f64>,
    /// An eighth of an inch less.
    less: StrapOut,
    /// An eighth of an inch more.
    more: StrapOut,
}

/// What a weight does, newtons.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct HeldOut {
    /// On each rein.
    weight: f64,
    word: Weight,
    /// How far the bit turned, radians.
    turn: f64,
    /// Whether the strap is tight.
    tight: bool,
    curb: f64,
    poll: f64,
    /// On the mouth: onto the bars.
    back: f64,
    /// On the mouth: into the corners, under 0 down.
    up: f64,
    nose: f64,
    jaw: f64,
}

/// What a piece does.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct BenchOut {
    hung: Option<HungOut>,
    /// Lightest first.
    held: Vec<HeldOut>,
    cautions: Vec<String>,
    /// What of it is a guess or a rule of thumb.
    assumed: Vec<&'static str>,
}

fn strap(turned: Turned) -> StrapOut {
    StrapOut { slack: turned.slack, tight: turned.tight, takes_hold: turned.takes_hold }
}

fn hung_out(hung: &Hung) -> HungOut {
    let (Chin { behind, below }, lever, takes_hold) = (hung.chin(), hung.lever(), hung.takes_hold());
    HungOut {
        chin_behind: behind,
        chin_below: below,
        tight: hung.tight(),
        over: hung.over(),
        takes_hold,
        means: takes_hold.means(),
        most_slack: hung.most_slack(),
        lever_by_length: lever.by_length,
        lever_at_rest: lever.at_rest,
        lever_tight: lever.tight,
        less: strap(hung.turned_by(-A_LITTLE)),
        more: strap(hung.turned_by(A_LITTLE)),
    }
}

/// Weights from a feather to a tug, each as much over the last.
fn weights() -> impl Iterator<Item = f64> {
    let (least, most, count) = WEIGHTS;
    (0..count).map(move |n| least * (most / least).powf(n as f64 / (count - 1) as f64))
}

/// What a piece makes of the weight of a hand.
#[utoipa::path(post, path = "/api/tack/bench", request_body = BenchIn,
    responses((status = 200, body = BenchOut), (status = 422, body = Problem)))]
pub(crate) async fn held(_: Rider, Body(sent): Body<BenchIn>) -> Result<Json<BenchOut>, Problem> {
    sound(&sent.measures.wrong())?;
    let (rise, nose_out) = (sent.rise.to_degrees(), sent.nose_out.to_degrees());
    if !((-60.01..=60.01).contains(&rise) && (-30.01..=90.01).contains(&nose_out)) {
        return Err(Problem::field(
            "rise",
            "the hand is within 60 degrees of level, and the nose -30 to 90 from plumb",
        ));
    }
    let pull = sent.rise + sent.nose_out;
    let scale = HandScale::default();
    let hung = match &sent.measures {
        Measures::Leverage(m) => match m.hung(pull) {
            Ok(hung) => Some(hung),
            Err(wrong) => return Err(Problem::field(&format!("measures.{}", wrong.field), wrong.text)),
        },
        _ => None,
    };
    let under = |weight: f64| {
        let none = HeldOut {
            weight,
            word: scale.nearest(weight),
            turn: 0.0,
            tight: false,
            curb: 0.0,
            poll: 0.0,
            back: 0.0,
            up: 0.0,
            nose: 0.0,
            jaw: 0.0,
        };
        match (&sent.measures, &hung) {
            (Measures::Bosal(m), _) => {
                let on = m.lever().held(weight);
                HeldOut { nose: on.nose, jaw: on.jaw, ..none }
            }
            (_, Some(hung)) => {
                let held = hung.held(weight);
                let (turn, tight, curb, poll) = (held.turn, held.tight, held.curb, held.poll);
                HeldOut { turn, tight, curb, poll, back: held.mouth.back, up: held.mouth.up, ..none }
            }
            _ => {
                let mouth = snaffle(weight, pull);
                HeldOut { back: mouth.back, up: mouth.up, ..none }
            }
        }
    };
    Ok(Json(BenchOut {
        held: weights().map(under).collect(),
        cautions: tack_cautions(&sent.measures, hung.as_ref()),
        assumed: if hung.is_some() { ASSUMED.to_vec() } else { vec![] },
        hung: hung.as_ref().map(hung_out),
    }))
}

/// What is not geometry.
const ASSUMED: [&str; 4] = [
    "Angles and levers are geometry. How poll and strap share the pull hangs on how far the headstall gives, which is a guess: take the poll for its order of size.",
    "An eighth of an inch of strap is several degrees. Measure the angle: a phone on the shank, the rein taken up until the strap is snug.",
    "Under a lemon a rein the bit's own weight and friction count for more than what is shown: look at the turn, not at the newtons.",
    "These are forces, not pressures: width, port, tongue and strap are not in it, and no figure says what hurts.",
];
