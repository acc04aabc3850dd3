//! How long deciding takes: forty horses with three years of rides, and one rep arriving.
//!
//! `cargo bench -p cavesson --bench decide`; prints a table, needs no database.

use std::time::Instant;

use cavesson::cli::decide;
use cavesson_core::{
    advice::{Advisor, Posture},
    belief::{Day, ModelSettings, Work},
    curriculum::{Curriculum, Side},
    response::{Answer, Rep, ResponseTime, Weight},
};
use chrono::{Days, NaiveDate};
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;
use serde_json::{Value, json};

const HORSES: usize = 40;
const SESSIONS: u64 = 300;

fn main() {
    let mut rng = ChaCha8Rng::seed_from_u64(1);
    let log = three_years(&mut rng);
    let sets: usize = log["horses"]
        .as_array()
        .into_iter()
        .flatten()
        .flat_map(|h| h["sessions"].as_array().into_iter().flatten())
        .map(|s| s["sets"].as_array().map_or(0, Vec::len))
        .sum();
    let text = log.to_string();
    println!("decide, {HORSES} horses, {SESSIONS} sessions each, {sets} sets, {} MB of JSON", text.len() / 1_000_000);
    for run in 1..=3 {
        let from = Instant::now();
        let answered = decide(&text).is_ok();
        println!("  run {run}: {:>8.1} ms, answered: {answered}", from.elapsed().as_secs_f64() * 1000.0);
    }
    one_rep(&mut rng);
}

fn three_years(rng: &mut ChaCha8Rng) -> Value {
    let rungs: Vec<Value> = (0..10)
        .map(|n| {
            let sides = if n % 3 == 0 { json!(["both"]) } else { json!(["left", "right"]) };
            let needs = if n == 0 { json!([]) } else { json!([format!("r{}", n - 1)]) };
            json!({ "id": format!("r{n}"), "sides": sides, "gait": "walk", "needs": needs,
                    "standard": { "share": 0.8, "weight": "lemon", "seconds": 2.0, "days": 3 } })
        })
        .collect();
    let first = NaiveDate::from_ymd_opt(2023, 1, 2).unwrap_or_default();
    let horses: Vec<Value> = (0..HORSES)
        .map(|h| {
            let sessions: Vec<Value> =
                (0..SESSIONS).map(|s| session(rng, first + Days::new(3 * s + h as u64 % 3), s)).collect();
            json!({ "id": format!("h{h}"), "sessions": sessions })
        })
        .collect();
    json!({ "posture": "steady", "trace": false, "rungs": rungs, "horses": horses })
}

fn session(rng: &mut ChaCha8Rng, date: NaiveDate, at: u64) -> Value {
    let known = (1 + at / 30).min(9);
    let sets: Vec<Value> = (0..rng.random_range(2..=3_u32))
        .map(|_| {
            let rung = rng.random_range(0..=known);
            let side = if rung % 3 == 0 { "both" } else { ["left", "right"][rng.random_range(0..2_usize)] };
            let reps: Vec<Value> = (0..rng.random_range(5..11_u32))
                .map(|_| {
                    let rep = one(rng);
                    json!({ "outcome": rep.answer.outcome().word(), "weight": rep.weight.word(), "seconds": rep.time.map(ResponseTime::seconds) })
                })
                .collect();
            json!({ "rung": format!("r{rung}"), "side": side, "reps": reps })
        })
        .collect();
    json!({ "date": date.to_string(), "sets": sets })
}

fn one(rng: &mut ChaCha8Rng) -> Rep {
    let near: f64 = rng.random_range(-1.5..4.0);
    let answer = if near > 0.0 { Answer::Gave } else { Answer::Tried { missing: None } };
    let weight = Weight::ALL[(3.3 - 0.9 * near).round().clamp(0.0, 7.0) as usize];
    Rep { answer, weight, time: ResponseTime::from_seconds((1.9 - 0.3 * near).max(0.2)).ok() }
}

/// A horse with three years behind it gets one more day of reps, and every call is made again.
fn one_rep(rng: &mut ChaCha8Rng) {
    let course = Curriculum::standard().course();
    let steps: Vec<usize> = (0..course.steps().len()).filter(|&ix| course.step(ix).taught).take(40).collect();
    let mut advisor = Advisor::new(&course, Posture::Steady, ModelSettings::default());
    let first = NaiveDate::from_ymd_opt(2023, 1, 2).unwrap_or_default();
    let day = |rng: &mut ChaCha8Rng, n: u64| {
        let work = (0..3)
            .map(|_| {
                let step = steps[rng.random_range(0..steps.len())];
                let side = course.step(step).sides.list()[0];
                Work::reps(step, side, (0..8).map(|_| one(rng)).collect())
            })
            .collect();
        Day::new(first + Days::new(n), work)
    };
    for n in 0..750 {
        let day = day(rng, n);
        if let Err(e) = advisor.watch(&day) {
            println!("{e}");
        }
    }
    let before = advisor.clone();
    let last = day(rng, 750);
    let (mut watch, mut calls) = (vec![], vec![]);
    for _ in 0..50 {
        let mut now = before.clone();
        let from = Instant::now();
        let _in_order = now.watch(&last);
        watch.push(from.elapsed().as_secs_f64() * 1000.0);
        let from = Instant::now();
        let made = last.work.iter().filter(|w| now.side(w.step, w.side, last.date).is_some()).count();
        assert!(made > 0 && last.work.iter().all(|w| w.side != Side::Right));
        calls.push(from.elapsed().as_secs_f64() * 1000.0);
    }
    let from = Instant::now();
    let standing = before.standing(last.date);
    let all = standing.calls().len();
    let whole = from.elapsed().as_secs_f64() * 1000.0;
    println!(
        "a rep arriving, 750 days behind it: {:.3} ms to take in its day, {:.3} ms for the calls on what was worked",
        median(&mut watch),
        median(&mut calls)
    );
    println!("  every call on the horse again ({all} steps): {whole:.2} ms");
}

fn median(values: &mut [f64]) -> f64 {
    values.sort_by(f64::total_cmp);
    values[values.len() / 2]
}
