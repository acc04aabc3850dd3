//! What must hold of a set-up, a horse and a pen before anything is worked out of them.

use cavesson_core::pattern::{Horse, NoPath, Pen, Point, SetUp, Spot};

use crate::{Problem, http::validate::Check};

/// Nothing lies further out, metres.
const FARTHEST: f64 = 500.0;
const WIDEST: f64 = 30.0;
const MOST_BARRELS: usize = 20;

fn near(p: Point) -> bool {
    p.x.abs() <= FARTHEST && p.y.abs() <= FARTHEST
}

/// Checks a set-up: everything is on this ground, every pocket is over nothing, and there is a path.
pub(super) fn set_up(set_up: &SetUp) -> Result<(), Problem> {
    let mut check = Check::default();
    check.that(near(set_up.start), "set_up.start", "this lies over 500 m out");
    check.that(near(set_up.finish), "set_up.finish", "this lies over 500 m out");
    check.that(
        set_up.barrel_radius > 0.0 && set_up.barrel_radius <= 2.0,
        "set_up.barrel_radius",
        "over 0 and at most 2 m",
    );
    let count = set_up.barrels.len();
    check.that((1..=MOST_BARRELS).contains(&count), "set_up.barrels", "a set-up has 1 to 20 barrels");
    for (n, barrel) in set_up.barrels.iter().take(MOST_BARRELS).enumerate() {
        let field = |what: &str| format!("set_up.barrels[{n}].{what}");
        check.that(near(barrel.at), &field("at"), "this lies over 500 m out");
        check.that((0.0..=100.0).contains(&barrel.early), &field("early"), "0 to 100 m");
        for spot in Spot::ALL {
            let pocket = barrel.pocket.at(spot);
            let field = field(&format!("pocket.{}", spot.word()));
            check.that(pocket > 0.0, &field, "a horse needs some pocket: this is over 0");
            check.that(pocket <= WIDEST, &field, "a pocket is at most 30 m (98 ft)");
        }
    }
    check.done()?;
    set_up.path().map(drop).map_err(no_path)
}

/// Why there is no path, at the field that stands in the way.
pub(super) fn no_path(why: NoPath) -> Problem {
    let field = match why {
        NoPath::NoBarrels => "set_up.barrels".to_owned(),
        NoPath::StartInside { .. } => "set_up.start".to_owned(),
        NoPath::FinishInside { .. } => "set_up.finish".to_owned(),
        NoPath::BarrelInside { inside, .. } => format!("set_up.barrels[{inside}]"),
        NoPath::NoStraight { to, .. } => format!("set_up.barrels[{to}]"),
    };
    Problem::field(&field, why.to_string())
}

pub(super) fn horse(horse: &Horse) -> Result<(), Problem> {
    let mut check = Check::default();
    for (field, value, most) in [
        ("horse.top_speed", horse.top_speed, 25.0),
        ("horse.speed_up", horse.speed_up, 30.0),
        ("horse.slow_down", horse.slow_down, 30.0),
        ("horse.side_grip", horse.side_grip, 30.0),
        ("horse.stride", horse.stride, 10.0),
    ] {
        check.that(value >= 0.05 && value <= most, field, format!("this is 0.05 to {most}"));
    }
    check.that((0.0..=25.0).contains(&horse.start_speed), "horse.start_speed", "this is 0 to 25 m/s");
    check.done()
}

pub(super) fn pen(pen: &Pen) -> Result<(), Problem> {
    let posts = pen.posts.iter().chain(pen.areas.iter().flat_map(|a| &a.corners.0)).chain(&pen.gate);
    if !posts.copied().all(near) || !(0.0..360.0).contains(&pen.north) {
        return Err(Problem::field("pen", "everything lies within 500 m, and north is 0 to under 360 degrees"));
    }
    pen.checked().map(drop).map_err(|why| Problem::field("pen", why.to_string()))
}
