//! What the demo's bits and bosals measure, and a horse that wears two snaffles by turns.

use cavesson_core::{
    barn::GearKind,
    ride::Mouthpiece,
    tack::{BosalMeasures, ChinTold, INCH, LeverageMeasures, Measures, SnaffleMeasures},
};
use cavesson_sim::ridden_in_two_rein;
use cavesson_store::{
    Scope,
    gear::{self, GearFields},
    tack,
    two_rein::{self, Shares},
};
use chrono::{Days, NaiveDate};
use sqlx::PgPool;

use super::{cast::HORSES, id};

fn snaffle(width: f64, ring: f64) -> Measures {
    Measures::Snaffle(SnaffleMeasures { width: width * INCH, ring: ring * INCH })
}

/// A bit with shanks: purchase, shank and sweep, then the slack of its strap.
fn leverage(purchase: f64, shank: f64, sweep: f64, slack: f64) -> Measures {
    Measures::Leverage(LeverageMeasures {
        purchase: purchase * INCH,
        shank: shank * INCH,
        sweep: sweep.to_radians(),
        slack: slack * INCH,
        chin_behind: 2.0 * INCH,
        chin: ChinTold::Tape { below: 0.25 * INCH },
        headstall: 18.0 * INCH,
        give: 0.05 * INCH,
    })
}

fn bosal(thick: f64) -> Measures {
    Measures::Bosal(BosalMeasures {
        length: 11.0 * INCH,
        jaw: 8.0 * INCH,
        thick: thick * INCH,
        lean: 35f64.to_radians(),
    })
}

/// Pieces that a horse has beside those of everyone: name, kind, mouthpiece, days ago.
const MORE: [(&str, &str, &str, GearKind, Mouthpiece, u64); 3] = [
    ("Gravel", "dogbone", "dogbone snaffle", GearKind::Bit, Mouthpiece::Snaffle, 80),
    ("Verbena", "bosal", "3/8 bosal", GearKind::Bosal, Mouthpiece::Bitless, 200),
    ("Hollis", "bosal", "5/8 bosal", GearKind::Bosal, Mouthpiece::Bitless, 120),
];

/// Dresses a horse's rides on some days in some of its pieces.
async fn wear(
    db: &PgPool,
    scope: &Scope,
    horse: &str,
    pieces: &[&str],
    days: impl Iterator<Item = NaiveDate>,
) -> anyhow::Result<()> {
    let worn: Vec<_> = pieces.iter().map(|what| id(&format!("{horse}/{what}"))).collect();
    let days: Vec<NaiveDate> = days.collect();
    Ok(gear::wear_all(db, scope, id(horse), &worn, Some(&days)).await?)
}

/// Adds what some horses wear besides, and dresses the rides on which they wore it. What is left is given what is usual later.
pub(super) async fn add(db: &PgPool, scope: &Scope, horse: &str, today: NaiveDate) -> anyhow::Result<()> {
    for (name, what, called, kind, mouthpiece, ago) in MORE.into_iter().filter(|(name, ..)| *name == horse) {
        let since = today - Days::new(ago);
        let seen = Some(today - Days::new(30));
        let fields = GearFields {
            kind,
            name: called.into(),
            mouthpiece: Some(mouthpiece),
            since,
            mouth_seen: seen,
            teeth_seen: seen,
            note: String::new(),
        };
        let own = |what: &str| id(&format!("{name}/{what}"));
        gear::put(db, scope, id(name), own(what), &fields).await?;
        if kind == GearKind::Bit {
            // By turns with the smooth snaffle.
            let by_turns = (2..=ago).step_by(4).flat_map(|n| [n, n + 1]);
            wear(db, scope, name, &[what, "saddle"], by_turns.map(|n| today - Days::new(n))).await?;
        } else if kind == GearKind::Bosal && name == "Hollis" {
            wear(db, scope, name, &[what, "saddle"], (1..=ago).step_by(2).map(|n| today - Days::new(n))).await?;
        }
    }
    let long = HORSES.iter().find(|h| h.name == horse && (1..400).contains(&h.in_it_for));
    if let Some(member) = long {
        let also = if horse == IN_TWO_REIN.0 { &["bit", "bosal", "saddle"][..] } else { &["bit", "saddle"] };
        wear(db, scope, horse, also, (1..=member.in_it_for).map(|n| today - Days::new(n))).await?;
    }
    Ok(())
}

/// A horse whose rides of the last months were in the two-rein: the simulated horse of a seed, on the days that it was ridden.
pub(super) const IN_TWO_REIN: (&str, u64, u64) = ("Verbena", 160, 5);

/// Notes the share of the rides in the two-rein. Days without a ride have none to note.
pub(super) async fn shares(db: &PgPool, scope: &Scope, today: NaiveDate) -> anyhow::Result<()> {
    let (horse, ago, seed) = IN_TWO_REIN;
    for ride in ridden_in_two_rein(today - Days::new(ago), seed).rides.iter().filter(|r| r.on() < today) {
        let shares =
            Shares { seconds: ride.seconds().try_into()?, begins: ride.begins().into(), moves: ride.moves().to_vec() };
        two_rein::put(db, scope, id(&format!("{horse}/{}", ride.on())), 0, &shares).await?;
    }
    Ok(())
}

/// Measures what hangs on the demo's wall; some pieces are not measured yet.
pub(super) async fn measure(db: &PgPool, scope: &Scope, today: NaiveDate) -> anyhow::Result<()> {
    let mut all = vec![
        ("Old Copper", "bit", leverage(1.75, 4.5, 10.0, 1.25)),
        ("Pilgrim", "bit", leverage(1.75, 4.75, 15.0, 1.25)),
        ("Verbena", "bit", leverage(2.0, 6.0, 25.0, 2.0)),
        ("Verbena", "bosal", bosal(0.375)),
        ("Hollis", "bosal", bosal(0.625)),
        ("Gravel", "dogbone", snaffle(5.25, 3.25)),
    ];
    // Of the first snaffles a few are not measured yet.
    let first = HORSES.iter().enumerate().filter(|(n, _)| n % 5 != 4);
    all.extend(
        first.map(|(n, h)| (h.name, "first bit", snaffle(5.0 + 0.125 * (n % 3) as f64, 3.0 + 0.25 * (n % 2) as f64))),
    );
    for (name, what, measures) in all {
        tack::put_measures(db, scope, id(&format!("{name}/{what}")), 0, &measures, today - Days::new(20)).await?;
    }
    Ok(())
}
