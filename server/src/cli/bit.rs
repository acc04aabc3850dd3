//! `cavesson bit`: a bit as it hangs and the weights of a hand in, where it takes hold and what it makes of them out.

use cavesson_core::{
    response::Weight,
    tack::{
        Bosal, Chin, FINGER, Force, HandScale, Headstall, Hung, INCH, LeverageBit, TakesHold, Turned, chin_from_angle,
        snaffle,
    },
};
use serde_json::{Value, json};

use crate::cli::document::{Node, Object, Problem, rounded};

/// The chin is at most so far above or below the mouthpiece, inches.
const CHIN: f64 = 3.0;
/// Weights are at most this, newtons on each rein.
const HEAVIEST: f64 = 250.0;
const MOST_WEIGHTS: usize = 50;
/// What the strap is made longer and shorter by, to show how much hangs on it, metres: a quarter of an inch.
const A_HOLE: f64 = 0.25 * INCH;

enum Asked {
    Leverage(Box<Leverage>),
    /// The rein's direction, radians.
    Snaffle(f64),
    Bosal(Bosal),
}

/// A leverage bit, with what is answered as it was told.
struct Leverage {
    hung: Hung,
    /// Inches.
    behind: f64,
    /// Inches, where it was told.
    below: Option<f64>,
    /// Degrees, where it was measured.
    tight_at: Option<f64>,
}

struct Document {
    bits: Vec<Asked>,
    compared: bool,
    weights: Vec<f64>,
    scale: HandScale,
}

/// Answers the contract.
///
/// # Errors
/// Every problem of a document that cannot be used.
pub fn bit(text: &str) -> Result<Value, Vec<Problem>> {
    let value: Value = serde_json::from_str(text).map_err(|e| vec![Problem::whole(format!("not JSON: {e}"))])?;
    let root = Node::root(&value);
    let document = read(&root);
    let problems = root.problems();
    let document = document.filter(|_| problems.is_empty()).ok_or(problems)?;
    Ok(answer(&document))
}

fn read(root: &Node<'_>) -> Option<Document> {
    let compare = root.peek("compare");
    let (doc, bits) = match &compare {
        Some(node) => (root.object(&["compare", "weights"], &["scale"])?, two(node)),
        None => part(root, &["weights"], &["scale"]).map(|(doc, bit)| (doc, vec![bit]))?,
    };
    let weights = doc.get("weights").map(|n| weights(&n));
    let scale = doc.get("scale").map_or_else(|| Some(HandScale::default()), |n| scale(&n));
    let bits = bits.into_iter().collect::<Option<Vec<_>>>();
    Some(Document { bits: bits?, compared: compare.is_some(), weights: weights?, scale: scale? })
}

fn two(node: &Node<'_>) -> Vec<Option<Asked>> {
    let nodes = node.list();
    if nodes.len() != 2 {
        node.say(format!("{} bits cannot be compared; it takes two", nodes.len()));
        return vec![None];
    }
    nodes.iter().map(|n| part(n, &[], &[])?.1).collect()
}

/// One bit with what belongs to its kind.
fn part<'a>(
    node: &Node<'a>,
    required: &[&'static str],
    optional: &[&'static str],
) -> Option<(Object<'a>, Option<Asked>)> {
    let kind = node.peek("bit").and_then(|bit| bit.peek("kind"));
    let word = kind.as_ref().and_then(Node::quiet_text);
    let belongs: &[&'static str] = match word {
        Some("leverage") => &["bit", "curb", "chin", "headstall", "rein"],
        Some("snaffle") => &["bit", "rein"],
        _ => &["bit"],
    };
    // What belongs to a kind that is not known cannot be told either.
    let unknown = !matches!(word, Some("leverage" | "snaffle" | "bosal"));
    let free: &[&'static str] = if unknown { &["curb", "chin", "headstall", "rein"] } else { &[] };
    let doc = node.object(&[belongs, required].concat(), &[free, optional].concat())?;
    let bit = match word {
        Some("leverage") => leverage(&doc),
        Some("snaffle") => {
            drop(doc.get("bit").and_then(|n| n.object(&["kind"], &[])));
            doc.get("rein").and_then(|n| rein(&n)).map(|degrees| Asked::Snaffle(degrees.to_radians()))
        }
        Some("bosal") => doc.get("bit").and_then(|n| bosal(&n)).map(Asked::Bosal),
        _ => {
            match (&kind, doc.get("bit")) {
                (Some(kind), _) => kind.say("is not a kind of bit; it is leverage, snaffle or bosal"),
                (None, Some(bit)) => drop(bit.object(&["kind"], &[])),
                (None, None) => {}
            }
            None
        }
    };
    Some((doc, bit))
}

fn bosal(node: &Node<'_>) -> Option<Bosal> {
    let doc = node.object(&["kind", "length", "jaw", "lean"], &[])?;
    let length = doc.within("length", 2.0, 20.0);
    let jaw = doc.within("jaw", 1.0, length.unwrap_or(20.0));
    let lean = doc.within("lean", 0.0, 90.0);
    Some(Bosal { length: length? * INCH, jaw: jaw? * INCH, lean: lean?.to_radians() })
}

/// Degrees from level: the rise to the hand, and how far the nose is out.
fn rein(node: &Node<'_>) -> Option<f64> {
    let doc = node.object(&["rise", "nose_out"], &[])?;
    let (rise, nose_out) = (doc.within("rise", -60.0, 60.0), doc.within("nose_out", -30.0, 90.0));
    Some(rise? + nose_out?)
}

fn leverage(doc: &Object<'_>) -> Option<Asked> {
    let inches = |of: &Object<'_>, key: &str, least, most| of.within(key, least, most).map(|inches| inches * INCH);
    let bit = doc.get("bit").and_then(|n| n.object(&["kind", "purchase", "shank", "sweep"], &[]));
    let bit = bit.and_then(|of| {
        let (purchase, shank) = (inches(&of, "purchase", 0.5, 6.0), inches(&of, "shank", 0.5, 12.0));
        let sweep = of.within("sweep", -45.0, 60.0);
        Some((purchase?, shank?, sweep?))
    });
    let slack = doc.get("curb").and_then(|n| curb(&n));
    let chin = doc.get("chin").and_then(|n| chin(&n));
    let headstall = doc.get("headstall").and_then(|n| n.object(&["length", "give"], &[])).and_then(|of| {
        let (length, give) = (inches(&of, "length", 6.0, 40.0), inches(&of, "give", 0.005, 10.0));
        Some(Headstall { length: length?, give: give? })
    });
    let rein = doc.get("rein").and_then(|n| rein(&n));
    let ((purchase, shank, sweep), rein) = (bit?, rein?);
    if (rein - sweep).abs() >= 90.0 {
        in_line(doc, rein, sweep);
        return None;
    }
    let (slack, (behind, below, tight_at), headstall) = (slack?, chin?, headstall?);
    let bit = LeverageBit { purchase, shank, sweep: sweep.to_radians() };
    let hung = |below: f64| {
        let chin = Chin { behind: behind * INCH, below };
        Hung::new(bit, chin, headstall, slack, rein.to_radians())
            .map_err(|why| doc.get("bit").map(|n| n.say(why.to_string())))
            .ok()
    };
    let mut hung = hung(below.unwrap_or(0.0) * INCH)?;
    if let Some(angle) = tight_at {
        match chin_from_angle(&hung, f64::to_radians(angle), CHIN * INCH) {
            Ok(chin) => hung = hung.with_chin(chin),
            Err(why) => {
                doc.get("chin")?.peek("tight_at")?.say(why.to_string());
                return None;
            }
        }
    }
    Some(Asked::Leverage(Box::new(Leverage { hung, behind, below, tight_at })))
}

/// Says of each value that has a part in it that rein and shank stand in line.
fn in_line(doc: &Object<'_>, rein: f64, sweep: f64) {
    let text =
        format!("the rein lies at {rein} degrees and the shank is swept by {sweep}: they must be under 90 apart");
    for (object, key) in [("rein", "rise"), ("rein", "nose_out"), ("bit", "sweep")] {
        if let Some(node) = doc.get(object).and_then(|n| n.peek(key)) {
            node.say(text.clone());
        }
    }
}

/// The strap's slack, metres.
fn curb(node: &Node<'_>) -> Option<f64> {
    let doc = node.object(&[], &["slack", "fingers"])?;
    match (doc.get("slack"), doc.get("fingers")) {
        (Some(_), None) => doc.within("slack", 0.0, 8.0).map(|inches| inches * INCH),
        (None, Some(_)) => doc.within("fingers", 0.0, 8.0).map(|fingers| fingers * FINGER),
        (Some(_), Some(_)) => {
            node.say("the strap is told by \"slack\" or by \"fingers\", not by both");
            None
        }
        (None, None) => {
            node.say("\"slack\" or \"fingers\" is missing");
            None
        }
    }
}

/// How far behind, inches; how far below, or at which angle it was tight.
fn chin(node: &Node<'_>) -> Option<(f64, Option<f64>, Option<f64>)> {
    let doc = node.object(&["behind"], &["below", "tight_at"])?;
    let behind = doc.within("behind", 0.5, 6.0);
    let told = match (doc.get("below"), doc.get("tight_at")) {
        (Some(_), None) => doc.within("below", -CHIN, CHIN).map(|below| (Some(below), None)),
        (None, Some(angle)) => doc.over_zero("tight_at", 180.0).and_then(|degrees| {
            if degrees >= 180.0 {
                angle.say(format!("{degrees} is not under 180"));
                return None;
            }
            Some((None, Some(degrees)))
        }),
        (Some(_), Some(_)) => {
            node.say("the chin is told by \"below\" or by \"tight_at\", not by both");
            None
        }
        (None, None) => {
            node.say("\"below\" or \"tight_at\" is missing");
            None
        }
    };
    let (below, tight_at) = told?;
    Some((behind?, below, tight_at))
}

fn weights(node: &Node<'_>) -> Vec<f64> {
    let nodes = node.list();
    if !(1..=MOST_WEIGHTS).contains(&nodes.len()) {
        node.say(format!("{} weights; it takes 1 to {MOST_WEIGHTS}", nodes.len()));
    }
    let weight = |n: &Node<'_>| {
        let weight = n.number()?;
        let sound = weight > 0.0 && weight <= HEAVIEST;
        if !sound {
            n.say(format!("{weight} is not over 0 and at most {HEAVIEST}"));
        }
        sound.then_some(weight)
    };
    nodes.iter().take(MOST_WEIGHTS).filter_map(weight).collect()
}

fn scale(node: &Node<'_>) -> Option<HandScale> {
    let words = || Weight::ALL.into_iter().filter(|w| *w != Weight::None);
    let keys: Vec<&str> = words().map(Weight::word).collect();
    let doc = node.object(&[], &keys)?;
    let told = words().filter_map(|w| doc.get(w.word()).map(|n| n.number().map(|newtons| (w, newtons))));
    let own: Vec<(Weight, f64)> = told.collect::<Option<_>>()?;
    HandScale::with(&own)
        .map_err(|why| {
            let at_fault = [Some(why.0), why.1];
            let mut named = at_fault.into_iter().flatten().filter_map(|w| doc.get(w.word())).peekable();
            if named.peek().is_none() {
                node.say(why.to_string());
            }
            named.for_each(|n| n.say(why.to_string()));
        })
        .ok()
}

fn inches(metres: f64) -> f64 {
    rounded(metres / INCH)
}

fn degrees(radians: f64) -> f64 {
    rounded(radians.to_degrees())
}

fn answer(document: &Document) -> Value {
    let each = |bit: &Asked| match bit {
        Asked::Leverage(it) => leverage_out(it, document),
        Asked::Snaffle(pull) => snaffle_out(*pull, document),
        Asked::Bosal(bosal) => bosal_out(bosal, document),
    };
    if !document.compared {
        return each(&document.bits[0]);
    }
    let mouth = |weight: &f64| {
        let [first, second] = [0, 1].map(|n| match &document.bits[n] {
            Asked::Leverage(it) => Some(it.hung.held(*weight).mouth.size()),
            Asked::Snaffle(pull) => Some(snaffle(*weight, *pull).size()),
            Asked::Bosal(_) => None,
        });
        let ratio = first.zip(second).map(|(first, second)| rounded(second / first));
        json!({ "weight": weight, "word": word(document, *weight), "first": first.map(rounded),
                "second": second.map(rounded), "ratio": ratio })
    };
    json!({
        "compare": document.bits.iter().map(each).collect::<Vec<_>>(),
        "mouth": document.weights.iter().map(mouth).collect::<Vec<_>>(),
    })
}

fn word(document: &Document, weight: f64) -> &'static str {
    document.scale.nearest(weight).word()
}

fn force(mouth: Force) -> Value {
    json!({ "force": rounded(mouth.size()), "back": rounded(mouth.back), "up": rounded(mouth.up) })
}

fn leverage_out(it: &Leverage, document: &Document) -> Value {
    let hung = &it.hung;
    let (tight, lever) = (hung.tight(), hung.lever());
    // What was measured is told as it was measured.
    let tight_out = it.tight_at.or(tight.map(degrees));
    let state = TakesHold::at(tight_out.map(f64::to_radians));
    let why = match tight_out {
        Some(angle) => format!("tight at {angle:.0} degrees: {}", state.means()),
        None => state.means().to_owned(),
    };
    let edge = |turned: Turned| json!({ "slack": inches(turned.slack), "tight": turned.tight.map(degrees), "state": turned.takes_hold.word() });
    let under = |weight: &f64| {
        let held = hung.held(*weight);
        let reins = 2.0 * weight;
        json!({
            "weight": weight,
            "word": word(document, *weight),
            "turn": degrees(held.turn),
            "strap": if held.tight { "tight" } else { "slack" },
            "curb": rounded(held.curb),
            "poll": rounded(held.poll),
            "mouth": force(held.mouth),
            "ratio": { "mouth": rounded(held.mouth.size() / reins), "curb": rounded(held.curb / reins) },
        })
    };
    json!({
        "kind": "leverage",
        "chin": { "behind": it.behind, "below": it.below.unwrap_or_else(|| inches(hung.chin().below)) },
        "lever": {
            "by_length": rounded(lever.by_length),
            "at_rest": rounded(lever.at_rest),
            "tight": lever.tight.map(rounded),
        },
        "turn": { "tight": tight_out, "over": degrees(hung.over()), "state": state.word(), "why": why },
        "strap": {
            "slack": inches(hung.slack()),
            "rest": inches(hung.run(0.0)),
            "tight": tight.map(|t| inches(hung.run(t))),
            "most_slack": inches(hung.most_slack()),
        },
        "sensitivity": { "less": edge(hung.turned_by(-A_HOLE)), "more": edge(hung.turned_by(A_HOLE)) },
        "weights": document.weights.iter().map(under).collect::<Vec<_>>(),
    })
}

fn snaffle_out(pull: f64, document: &Document) -> Value {
    let under = |weight: &f64| {
        let mouth = snaffle(*weight, pull);
        json!({
            "weight": weight,
            "word": word(document, *weight),
            "mouth": force(mouth),
            "curb": 0,
            "poll": 0,
            "ratio": { "mouth": rounded(mouth.size() / (2.0 * weight)), "curb": 0 },
        })
    };
    json!({ "kind": "snaffle", "weights": document.weights.iter().map(under).collect::<Vec<_>>() })
}

fn bosal_out(bosal: &Bosal, document: &Document) -> Value {
    let under = |weight: &f64| {
        let on = bosal.held(*weight);
        let reins = 2.0 * weight;
        json!({
            "weight": weight,
            "word": word(document, *weight),
            "nose": rounded(on.nose),
            "jaw": rounded(on.jaw),
            "ratio": { "nose": rounded(on.nose / reins), "jaw": rounded(on.jaw / reins) },
        })
    };
    json!({ "kind": "bosal", "weights": document.weights.iter().map(under).collect::<Vec<_>>() })
}
