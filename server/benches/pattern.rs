//! How long a pattern takes: the quickest run, the contract with its JSON, what a foot costs, and the fit into a pen.
//!
//! `cargo bench -p cavesson --bench pattern`; prints a table, needs no database.

use std::time::Instant;

use cavesson::cli::pattern;
use cavesson_core::{
    curriculum::Gait,
    pattern::{Asked, FOOT, Footwork, Hand, Horse, Outline, Pen, Room, costs, fit, pocket_for, quickest_run},
};

fn timed(what: &str, times: u32, mut work: impl FnMut() -> bool) {
    let from = Instant::now();
    let done = (0..times).all(|_| work());
    println!("  {what:<28} {:>9.3} ms, done: {done}", from.elapsed().as_secs_f64() * 1000.0 / f64::from(times));
}

fn main() {
    let pocket = pocket_for(Gait::Run, Footwork::Has);
    let asked = Asked { room: Room::default(), pocket, first: Hand::Right, lopsided: false };
    let outline = Outline::Rectangle { width: 130.0 * FOOT, length: 200.0 * FOOT };
    let pen = Pen { outline, north: 0.0, gate: None, posts: vec![], areas: vec![] };
    let (Ok(fitted), Some(horse)) = (fit(&pen, &asked), Horse::of_gait(Gait::Run)) else { return };
    let text = serde_json::json!({
        "kind": "barrels", "start": { "x": 0, "y": 0 }, "finish": { "x": 0, "y": 0 }, "barrel_radius": 0.96,
        "barrels": [
            { "id": "1", "x": 45, "y": 60, "turn": "right", "entry": 4, "back": 4, "exit": 3 },
            { "id": "2", "x": -45, "y": 60, "turn": "left", "entry": 4, "back": 5, "exit": 3 },
            { "id": "3", "x": 0, "y": 154.87, "turn": "left", "entry": 4, "back": 4, "exit": 3 }
        ],
        "horse": { "top_speed": 34, "speed_up": 10, "slow_down": 16, "side_grip": 22, "start_speed": 30, "stride": 17 }
    })
    .to_string();
    println!("a pattern of three barrels");
    timed("quickest run", 500, || quickest_run(&fitted.set_up, &horse).is_ok());
    timed("the contract", 500, || pattern(&text).is_ok());
    timed("what a foot costs", 20, || costs(&fitted.set_up, &horse).is_ok());
    timed("fit", 5, || fit(&pen, &asked).is_ok());
    timed("fit of an uneven set", 5, || fit(&pen, &Asked { lopsided: true, ..asked }).is_ok());
}
