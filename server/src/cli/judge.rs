//! `cavesson judge`: how `decide` does on simulated horses whose true state is known, beside three rules of thumb.

use std::{collections::BTreeMap, fmt::Write as _};

use serde_json::Value;

use crate::cli::{decide, document::Problem};

/// What was said first, by horse, rung and side: the session of the first advance.
type Firsts = BTreeMap<(usize, String, String), usize>;

/// How one way to decide did.
struct Figures {
    /// Share of first advances made while the true share was more than 0.05 under the standard.
    wrong: f64,
    /// Sessions between being ready and the first advance.
    lost: f64,
    made: usize,
}

/// The table for a log and the truth behind it, in the formats of the contract.
///
/// # Errors
/// A log that `decide` refuses, or a text that is not JSON.
pub fn judge(log: &str, truth: &str) -> Result<String, Vec<Problem>> {
    let parse = |text: &str, what: &str| -> Result<Value, Vec<Problem>> {
        serde_json::from_str(text).map_err(|e| vec![Problem::whole(format!("the {what} is not JSON: {e}"))])
    };
    let (mut log, truth) = (parse(log, "log")?, parse(truth, "truth")?);
    log["trace"] = Value::Bool(true);
    let mut table = String::new();
    let ideal = truth["oracle"]["log_loss"].as_f64();
    let _ = writeln!(
        table,
        "{:<22}{:>9}{:>9}{:>9}{:>9}{:>11}{:>10}",
        "", "log loss", "x ideal", "holds", "false", "days lost", "advances"
    );
    for posture in ["patient", "steady", "go-ahead"] {
        log["posture"] = Value::from(posture);
        let answer = decide(&log.to_string())?;
        let (loss, holds) = loss_and_cover(&answer, &truth);
        let f = advances(&log, &truth, &firsts(&answer));
        let times = ideal.map_or(String::new(), |i| format!("{:.3}", loss / i));
        let _ = writeln!(
            table,
            "{posture:<22}{loss:>9.4}{times:>9}{:>8.1}%{:>8.1}%{:>11.2}{:>10}",
            100.0 * holds,
            100.0 * f.wrong,
            f.lost,
            f.made
        );
    }
    for (name, firsts) in thumbs(&log) {
        let f = advances(&log, &truth, &firsts);
        let _ = writeln!(
            table,
            "{name:<22}{:>9}{:>9}{:>9}{:>8.1}%{:>11.2}{:>10}",
            "",
            "",
            "",
            100.0 * f.wrong,
            f.lost,
            f.made
        );
    }
    Ok(table)
}

fn list<'a>(value: &'a Value, key: &str) -> &'a [Value] {
    value[key].as_array().map_or(&[], Vec::as_slice)
}

fn text(value: &Value, key: &str) -> String {
    value[key].as_str().unwrap_or_default().to_owned()
}

/// The truth of a horse by rung and side: shares and whether ready, one a session.
fn truth_of(horse: &Value) -> BTreeMap<(String, String), &Value> {
    list(horse, "rungs").iter().map(|r| ((text(r, "rung"), text(r, "side")), r)).collect()
}

/// Mean log loss of `ready`, and how often the interval holds the true share.
fn loss_and_cover(answer: &Value, truth: &Value) -> (f64, f64) {
    let (mut loss, mut held, mut n) = (0.0, 0.0, 0.0);
    for (horse, known) in list(answer, "horses").iter().zip(list(truth, "horses")) {
        let known = truth_of(known);
        for call in list(horse, "calls") {
            let session = call["session"].as_u64().unwrap_or_default() as usize;
            let Some(t) = known.get(&(text(call, "rung"), text(call, "side"))) else { continue };
            let p = call["ready"].as_f64().unwrap_or(0.5).clamp(1e-4, 1.0 - 1e-4);
            let ready = list(t, "ready")[session].as_bool() == Some(true);
            let share = list(t, "share")[session].as_f64().unwrap_or_default();
            let within = call["share"]["low"].as_f64() <= Some(share) && Some(share) <= call["share"]["high"].as_f64();
            loss -= if ready { p.ln() } else { (1.0 - p).ln() };
            held += f64::from(u8::from(within));
            n += 1.0;
        }
    }
    (loss / f64::max(n, 1.0), held / f64::max(n, 1.0))
}

fn firsts(answer: &Value) -> Firsts {
    let mut firsts = Firsts::new();
    for (h, horse) in list(answer, "horses").iter().enumerate() {
        for call in list(horse, "calls").iter().filter(|c| c["call"] == "advance") {
            let session = call["session"].as_u64().unwrap_or_default() as usize;
            firsts.entry((h, text(call, "rung"), text(call, "side"))).or_insert(session);
        }
    }
    firsts
}

fn advances(log: &Value, truth: &Value, firsts: &Firsts) -> Figures {
    let standard: BTreeMap<String, f64> =
        list(log, "rungs").iter().map(|r| (text(r, "id"), r["standard"]["share"].as_f64().unwrap_or(1.0))).collect();
    let (mut made, mut wrong, mut lost, mut ever) = (0, 0, 0, 0);
    for (h, known) in list(truth, "horses").iter().enumerate() {
        let sessions = list(&list(log, "horses")[h], "sessions").len();
        for ((rung, side), t) in truth_of(known) {
            let wanted = standard[&rung];
            let at = firsts.get(&(h, rung, side)).copied();
            if let Some(at) = at {
                made += 1;
                wrong += usize::from(list(t, "share")[at].as_f64().unwrap_or_default() < wanted - 0.05);
            }
            if let Some(ready) = list(t, "ready").iter().position(|r| r.as_bool() == Some(true)) {
                ever += 1;
                lost += at.unwrap_or(sessions).saturating_sub(ready);
            }
        }
    }
    let share = |part: usize, whole: usize| part as f64 / whole.max(1) as f64;
    Figures { wrong: share(wrong, made), lost: share(lost, ever), made }
}

/// The three rules of thumb of the contract: three days running, eight of ten, ten sessions.
fn thumbs(log: &Value) -> [(&'static str, Firsts); 3] {
    let mut out =
        [("three days running", Firsts::new()), ("eight of ten", Firsts::new()), ("ten sessions", Firsts::new())];
    let standards: BTreeMap<String, &Value> =
        list(log, "rungs").iter().map(|r| (text(r, "id"), &r["standard"])).collect();
    for (h, horse) in list(log, "horses").iter().enumerate() {
        let mut days: BTreeMap<(String, String), Vec<Vec<bool>>> = BTreeMap::new();
        for (s, session) in list(horse, "sessions").iter().enumerate() {
            let mut today: BTreeMap<(String, String), Vec<bool>> = BTreeMap::new();
            for set in list(session, "sets") {
                let standard = standards[&text(set, "rung")];
                let met = list(set, "reps").iter().map(|r| meets(r, standard));
                today.entry((text(set, "rung"), text(set, "side"))).or_default().extend(met);
            }
            for (key, reps) in today.into_iter().filter(|(_, reps)| !reps.is_empty()) {
                let days = days.entry(key.clone()).or_default();
                days.push(reps);
                let wanted = standards[&key.0]["share"].as_f64().unwrap_or(1.0);
                let key = (h, key.0, key.1);
                let held = [three_days(days, wanted), eight_of_ten(days), days.len() >= 10];
                for ((_, firsts), _) in out.iter_mut().zip(held).filter(|(_, held)| *held) {
                    firsts.entry(key.clone()).or_insert(s);
                }
            }
        }
    }
    out
}

fn three_days(days: &[Vec<bool>], wanted: f64) -> bool {
    let share = |reps: &Vec<bool>| reps.iter().filter(|m| **m).count() as f64 / reps.len() as f64;
    days.len() >= 3 && days[days.len() - 3..].iter().all(|d| share(d) >= wanted)
}

fn eight_of_ten(days: &[Vec<bool>]) -> bool {
    let all: Vec<bool> = days.concat();
    all.len() >= 10 && all[all.len() - 10..].iter().filter(|m| **m).count() >= 8
}

fn meets(rep: &Value, standard: &Value) -> bool {
    let step = |weight: &Value| weight.as_str().and_then(|w| w.parse::<cavesson_core::response::Weight>().ok());
    let in_time = rep.get("seconds").is_none_or(|s| s.as_f64() <= standard["seconds"].as_f64());
    rep["outcome"] == "gave" && step(&rep["weight"]) <= step(&standard["weight"]) && in_time
}
