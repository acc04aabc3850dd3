//! Before mounting: what applies to this horse, today, in this bit. Cautions of the trade in few words; where a vet, a
//! dentist, a farrier, an instructor, the law or the rules of an event say otherwise, they hold.

use chrono::NaiveDate;

use crate::{
    barn::{Ground, Trait},
    curriculum::{Curriculum, Gait, Mouthpiece, Side, SignKind},
    load::{HeatBand, OffReason},
};

/// What is known before mounting.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct CheckContext {
    /// The day.
    pub today: Option<NaiveDate>,
    /// What it is ridden in, where that is noted.
    pub bit: Option<Mouthpiece>,
    /// Whether it was ridden in that bit on no earlier day.
    pub first_day: bool,
    /// When the mouth and the teeth were last seen.
    pub teeth_seen: Option<NaiveDate>,
    /// The mouth was noted sore, and nobody has written that it is well since.
    pub sore_mouth: bool,
    /// Noted sore, or possible pain, that nobody has looked into.
    pub look_at: Option<String>,
    /// The heat.
    pub heat: HeatBand,
    /// The fastest gait that the plan rides.
    pub fastest: Option<Gait>,
    /// Years since it was foaled.
    pub age: Option<u16>,
    /// Days ridden so far.
    pub days_ridden: u32,
    /// Whether the plan has cattle in it.
    pub cattle: bool,
    /// Spurs are on.
    pub spurs: bool,
    /// It was tight or quick on its feet on the last ride.
    pub unsettled: bool,
    /// What it is like for good.
    pub traits: Vec<Trait>,
    /// On which of the barn's own grounds, where that is known.
    pub ground: Option<Ground>,
    /// Ridden away from home.
    pub away: bool,
    /// What it was off for, while the vet's word is still asked.
    pub vet_asked: Option<OffReason>,
}

impl CheckContext {
    /// Why spurs come off, where they are on and had better not be.
    fn no_spurs(&self) -> Option<&'static str> {
        let whys = [
            (self.unsettled, "Tight or quick last time"),
            (self.traits.contains(&Trait::PopsUpBehind), "It pops up behind"),
            (self.traits.contains(&Trait::LegSensitive), "It is sensitive to the leg"),
        ];
        whys.into_iter().find(|(so, _)| self.spurs && *so).map(|(_, why)| why)
    }
}

/// One check.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Check {
    /// Its id: `teeth`.
    pub id: &'static str,
    /// What to check, in few words.
    pub says: String,
    /// Why it stands here today.
    pub why: String,
    /// The ride waits until it is answered.
    pub must: bool,
    /// The sides that are answered each for itself; none for a plain tick.
    pub sides: &'static [Side],
}

/// Months after which teeth are due to be seen again (common practice, no published source).
const TEETH_DAYS: i64 = 365;

/// Whether a vet or dentist should look at the teeth again before a bit is changed: never seen, or over a year ago.
///
/// ```
/// use cavesson_core::ride::teeth_are_due;
/// let on = "2026-03-02".parse().unwrap();
/// assert!(teeth_are_due(None, on) && teeth_are_due(Some("2025-03-01".parse().unwrap()), on));
/// assert!(!teeth_are_due(Some("2025-03-02".parse().unwrap()), on));
/// ```
pub fn teeth_are_due(seen: Option<NaiveDate>, on: NaiveDate) -> bool {
    seen.is_none_or(|seen| (on - seen).num_days() > TEETH_DAYS)
}
/// Rides below which a horse counts as just started (common practice: 15 to 20 rides).
const STARTED: u32 = 15;
/// Age up to which legs are young.
const YOUNG: u16 = 3;

/// The sign of a mouth that hurts.
const SORE_MOUTH: &str = "sore-mouth";

/// Whether one of a day's signs is that of a tight horse.
///
/// ```
/// use cavesson_core::ride::is_tight;
/// assert!(is_tight(&["jaw-locked".to_owned()]));
/// assert!(!is_tight(&["licks".to_owned()]));
/// ```
pub fn is_tight(signs: &[String]) -> bool {
    let tight =
        |tag: &String| Curriculum::standard().signs().iter().any(|s| s.tag == *tag && s.kind == SignKind::Tight);
    signs.iter().any(tight)
}

/// Whether a horse was tight the last time: on the last day before today on which it was worked, or since.
pub fn is_unsettled<'d>(
    signs: impl IntoIterator<Item = (NaiveDate, &'d [String])>,
    worked: impl IntoIterator<Item = NaiveDate>,
    today: NaiveDate,
) -> bool {
    let last = worked.into_iter().filter(|day| *day < today).max();
    signs.into_iter().any(|(on, tags)| Some(on) >= last && is_tight(tags))
}

/// Whether the mouth was noted sore on a day, and nobody has written since that someone looked.
///
/// ```
/// use cavesson_core::ride::has_sore_mouth;
/// let day = |text: &str| text.parse::<chrono::NaiveDate>().unwrap();
/// let signs = ["sore-mouth".to_owned()];
/// let noted = [(day("2026-03-02"), signs.as_slice())];
/// assert!(has_sore_mouth(noted, None));
/// assert!(!has_sore_mouth(noted, Some(day("2026-03-03"))), "someone has looked since");
/// ```
pub fn has_sore_mouth<'d>(
    days: impl IntoIterator<Item = (NaiveDate, &'d [String])>,
    looked: Option<NaiveDate>,
) -> bool {
    let since = |on: NaiveDate| looked.is_none_or(|l| on > l);
    days.into_iter().any(|(on, signs)| since(on) && signs.iter().any(|tag| tag == SORE_MOUTH))
}

/// What applies before mounting, what the ride waits for first.
///
/// ```
/// use cavesson_core::ride::{CheckContext, checks};
/// let sore = checks(&CheckContext { sore_mouth: true, ..CheckContext::default() });
/// assert!(sore[0].must, "what the ride waits for comes first");
/// ```
pub fn checks(b: &CheckContext) -> Vec<Check> {
    let mut out = musts(b);
    out.push(Check {
        id: "one-rein-stop",
        says: "One-rein stop, each side, before each faster gait".to_owned(),
        why: match b.fastest {
            Some(gait) => format!("The plan goes as fast as the {gait}"),
            None => "The emergency brake, checked today".to_owned(),
        },
        must: false,
        sides: &[Side::Left, Side::Right],
    });
    out.push(tick("tack", "Tack, cinch and bit: neither low nor tight, nothing loose to hang up in", "Every ride"));
    if b.days_ridden < STARTED {
        let why = format!("{} rides so far", b.days_ridden);
        out.push(tick("someone-about", "Helmet and boots; someone about", &why));
    }
    if b.cattle {
        out.push(tick("cattle", "Someone about; quiet cattle, room to get out of the way", "Cattle in the plan"));
    }
    if b.bit == Some(Mouthpiece::Leverage) && !b.first_day {
        out.push(tick("curb", "Curb strap turns, then takes hold, and does not pinch the corner", "Leverage bit"));
    }
    if let Some(why) = b.no_spurs() {
        out.push(tick("spurs", "Spurs off: push, do not jab, and only on a settled horse", why));
    }
    if b.traits.contains(&Trait::PopsUpBehind) && b.fastest >= Some(Gait::Lope) {
        out.push(tick("hips", "Hips over on both sides before the lope, from the ground too", "It pops up behind"));
    }
    if b.fastest >= Some(Gait::Lope) {
        let young = b.age.is_some_and(|a| a <= YOUNG);
        let caution = b.ground.and_then(|g| g.caution());
        let why = caution.unwrap_or(if young { "Young legs: short, straight, few" } else { "The plan lopes" });
        out.push(tick("footing", "Footing: no ruts, no mud, not hard, before any speed, slide or rollback", why));
    }
    if b.away {
        out.push(tick("away", "Flex and stop in the new place before anything else", "Away from home"));
    }
    out
}

/// What the ride waits for.
fn musts(b: &CheckContext) -> Vec<Check> {
    let mut out = vec![];
    if let Some(why) = &b.look_at {
        out.push(must(
            "look-at",
            "Someone has looked: mouth, feet, back, saddle. Vet or farrier where it is not plain",
            why,
        ));
    }
    if let Some(off) = b.vet_asked {
        out.push(must("vet", "A vet has said that it may work, and how much", &format!("It was off: {off}")));
    }
    if b.sore_mouth && b.bit != Some(Mouthpiece::Bitless) {
        out.push(must(
            SORE_MOUTH,
            "The mouth is well again, or it is ridden without a bit",
            "The mouth was noted sore",
        ));
    }
    if b.first_day && b.bit.is_some_and(|bit| bit != Mouthpiece::Bitless) {
        let old = b.today.is_none_or(|today| teeth_are_due(b.teeth_seen, today));
        if old {
            let why = match b.teeth_seen {
                Some(seen) => format!("A new bit, and the teeth were last seen on {}", seen.format("%-d %B %Y")),
                None => "A new bit, and no date on which the teeth were seen".to_owned(),
            };
            out.push(must("teeth", "Mouth and teeth, wolf teeth too, seen by a vet or dentist", &why));
        }
    }
    if b.first_day && b.bit == Some(Mouthpiece::Leverage) {
        let says = "Curb strap let out, bit slipped in, turned by hand, then taken up until it does not pinch";
        out.push(must(
            "first-leverage",
            says,
            "First day in a leverage bit: first asks to the side, never straight back",
        ));
    }
    if b.heat == HeatBand::NoHardWork {
        let says =
            "Cool enough, or only what it owns at the walk; it sweats, and breathes quiet after ten minutes' rest";
        out.push(must("heat", says, "Over 100 °F in the shade, or too much by one of the two heat indices"));
    }
    out
}

fn tick(id: &'static str, says: &str, why: &str) -> Check {
    Check { id, says: says.to_owned(), why: why.to_owned(), must: false, sides: &[] }
}

fn must(id: &'static str, says: &str, why: &str) -> Check {
    Check { must: true, ..tick(id, says, why) }
}
