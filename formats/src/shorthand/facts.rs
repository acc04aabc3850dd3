//! What stands in parentheses before the colon: who rode, where, in what, and how long at each gait.

use cavesson_core::{curriculum::Gait, load::GaitMinutes};

use super::{Lexicon, RideFacts, grammar::gait, lexicon::folded};

/// What one fact is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) enum Fact {
    Rider(String),
    Place(String),
    Gear(String),
    Minutes(GaitMinutes),
}

impl Fact {
    /// Reads a fact; none where it is nothing that the barn knows.
    pub(super) fn read(text: &str, lexicon: &Lexicon<'_>) -> Option<Fact> {
        let word = folded(text);
        let own = |kind: &super::lexicon::Names| kind.get(&word).cloned();
        own(&lexicon.riders)
            .map(Fact::Rider)
            .or_else(|| own(&lexicon.places).map(Fact::Place))
            .or_else(|| own(&lexicon.gear).map(Fact::Gear))
            .or_else(|| minutes(&word).map(Fact::Minutes))
    }

    pub(super) fn says(&self) -> String {
        match self {
            Fact::Rider(name) => format!("ridden by {name}"),
            Fact::Place(name) => format!("where: {name}"),
            Fact::Gear(name) => format!("in the {name}"),
            Fact::Minutes(minutes) => format!("{} minutes", minutes.total()),
        }
    }

    /// Takes it among the facts of a ride; false where another of its kind is there.
    pub(super) fn tell(self, facts: &mut RideFacts) -> bool {
        match self {
            Fact::Rider(name) if facts.rider.is_none() => facts.rider = Some(name),
            Fact::Place(name) if facts.place.is_none() => facts.place = Some(name),
            Fact::Minutes(minutes) if facts.minutes.is_none() => facts.minutes = Some(minutes),
            Fact::Gear(name) if !facts.gear.contains(&name) => facts.gear.push(name),
            _ => return false,
        }
        true
    }
}

/// `walk 20 jog 10`.
fn minutes(text: &str) -> Option<GaitMinutes> {
    let words: Vec<&str> = text.split(' ').collect();
    let mut all = GaitMinutes::default();
    for pair in words.chunks(2) {
        let [name, number] = pair else { return None };
        let plain = number.len() <= 3 && number.chars().all(|c| c.is_ascii_digit());
        let many: u16 = plain.then(|| number.parse().ok()).flatten().filter(|m| (1..=GaitMinutes::MOST).contains(m))?;
        let at = gait(name).filter(|g| all.at(*g) == 0)?;
        all = all.plus(at, many);
    }
    Some(all)
}

/// The facts as they are written, without the parentheses.
///
/// ```
/// use cavesson_formats::shorthand::{RideFacts, write_facts};
/// let facts = RideFacts { rider: Some("Ada".into()), place: Some("Arena".into()), ..RideFacts::default() };
/// assert_eq!(write_facts(&facts), "Ada, Arena");
/// ```
pub fn write(facts: &RideFacts) -> String {
    let minutes = facts.minutes.map(|m| {
        let told = Gait::ALL.into_iter().filter(|g| m.at(*g) > 0).map(|g| format!("{} {}", g.word(), m.at(g)));
        told.collect::<Vec<_>>().join(" ")
    });
    let all = facts.rider.iter().chain(&facts.place).chain(&facts.gear).cloned();
    all.chain(minutes.filter(|m| !m.is_empty())).collect::<Vec<_>>().join(", ")
}
