use std::collections::BTreeMap;

use cavesson_core::{
    curriculum::{Curriculum, Gait, Rung, Side},
    response::Weight,
};

use super::grammar::is_plain;

const SHORT: &str = include_str!("aliases.toml");
/// No word is longer. What is longer is like none, and comparing it would take the square of its length.
const LONGEST: usize = 80;
/// Likeness from which on a word is offered as the nearest.
const LIKE: f64 = 0.6;

/// An alias that cannot be one.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[allow(missing_docs)]
pub enum AliasError {
    #[error("\"{alias}\" stands for {rung}, which is no rung here")]
    UnknownRung { alias: String, rung: String },
    #[error("\"{0}\" means something else in the shorthand; take another word")]
    Taken(String),
}

/// The words of the shorthand: rungs by id, name and alias, faults, signs, and the horses of the barn.
#[derive(Debug, Clone)]
pub struct Lexicon<'a> {
    curriculum: &'a Curriculum,
    rungs: BTreeMap<String, Vec<String>>,
    faults: BTreeMap<String, String>,
    signs: BTreeMap<String, String>,
    horses: Names,
    pub(super) riders: Names,
    pub(super) places: Names,
    pub(super) gear: Names,
}

/// Names as they are looked up, and as the barn writes them.
pub(super) type Names = BTreeMap<String, String>;

fn names(of: &[String]) -> Names {
    of.iter().map(|name| (folded(name), name.clone())).collect()
}

impl<'a> Lexicon<'a> {
    /// The words of a curriculum, with a barn's own aliases, which come before the ones that ship, and its horses.
    ///
    /// # Errors
    /// An alias for a rung that does not exist, or one that is a word of the grammar.
    pub fn new(
        curriculum: &'a Curriculum,
        aliases: &[(String, String)],
        horses: &[String],
    ) -> Result<Lexicon<'a>, AliasError> {
        let mut rungs: BTreeMap<String, Vec<String>> = BTreeMap::new();
        let shipped: BTreeMap<String, Vec<String>> = toml::from_str(SHORT).unwrap_or_default();
        for (alias, ids) in shipped {
            let known: Vec<String> = ids.into_iter().filter(|id| curriculum.rung(id).is_some()).collect();
            if !known.is_empty() {
                rungs.insert(alias, known);
            }
        }
        for rung in curriculum.rungs() {
            if !is_plain(&folded(&rung.name)) {
                rungs.insert(folded(&rung.name), vec![rung.id.clone()]);
            }
            rungs.insert(folded(&rung.id), vec![rung.id.clone()]);
        }
        for (alias, rung) in aliases {
            if curriculum.rung(rung).is_none() {
                return Err(AliasError::UnknownRung { alias: alias.clone(), rung: rung.clone() });
            }
            let plain = |c: char| c.is_alphanumeric() || c == '-' || c == ' ';
            if is_plain(&folded(alias)) || folded(alias).is_empty() || !alias.chars().all(plain) {
                return Err(AliasError::Taken(alias.clone()));
            }
            rungs.insert(folded(alias), vec![rung.clone()]);
        }
        let named = |tag: &str, name: &str| [(folded(tag), tag.to_owned()), (folded(name), tag.to_owned())];
        Ok(Lexicon {
            curriculum,
            rungs,
            faults: curriculum.faults().iter().flat_map(|f| named(&f.tag, &f.name)).collect(),
            signs: curriculum.signs().iter().flat_map(|s| named(&s.tag, &s.name)).collect(),
            horses: names(horses),
            riders: Names::new(),
            places: Names::new(),
            gear: Names::new(),
        })
    }

    /// Knows a barn's riders, places and gear too, which stand in parentheses before the colon.
    #[must_use]
    pub fn knowing(self, riders: &[String], places: &[String], gear: &[String]) -> Lexicon<'a> {
        Lexicon { riders: names(riders), places: names(places), gear: names(gear), ..self }
    }

    /// The nearest rider, place or piece of gear.
    pub(super) fn nearest_fact(&self, word: &str) -> Option<String> {
        let all = [&self.riders, &self.places, &self.gear];
        let found = nearest(&folded(word), all.iter().flat_map(|names| names.keys().map(String::as_str)))?;
        all.iter().find_map(|names| names.get(&found).cloned())
    }

    /// Rungs that a word stands for, the first being the one that is meant without a gait.
    pub(super) fn rungs(&self, word: &str) -> Option<Vec<&'a Rung>> {
        let ids = self.rungs.get(word)?;
        Some(ids.iter().filter_map(|id| self.curriculum.rung(id)).collect())
    }

    pub(super) fn fault(&self, word: &str) -> Option<&str> {
        self.faults.get(word).map(String::as_str)
    }

    pub(super) fn sign(&self, word: &str) -> Option<&str> {
        self.signs.get(word).map(String::as_str)
    }

    /// The name of a horse as the barn writes it.
    pub(super) fn horse(&self, word: &str) -> Option<&str> {
        self.horses.get(&folded(word)).map(String::as_str)
    }

    pub(super) fn nearest_horse(&self, word: &str) -> Option<String> {
        nearest(&folded(word), self.horses.keys().map(String::as_str)).map(|k| self.horses[&k].clone())
    }

    /// The nearest word that means something inside a set.
    pub(super) fn nearest(&self, word: &str) -> Option<String> {
        let fixed = Weight::ALL.iter().map(|w| w.word()).chain(Gait::ALL.iter().map(|g| g.word()));
        let sides = [Side::Left, Side::Right, Side::Both].map(Side::word);
        let words = self.rungs.keys().chain(self.faults.keys()).chain(self.signs.keys()).map(String::as_str);
        nearest(word, words.chain(fixed).chain(sides))
    }
}

/// The likest of some words, if any is like enough (Jaro and Winkler).
fn nearest<'w>(word: &str, words: impl Iterator<Item = &'w str>) -> Option<String> {
    if word.chars().count() > LONGEST {
        return None;
    }
    let likened = words.map(|w| (strsim::jaro_winkler(word, w), w));
    let (likeness, best) = likened.max_by(|a, b| a.0.total_cmp(&b.0).then_with(|| b.1.cmp(a.1)))?;
    (likeness >= LIKE).then(|| best.to_owned())
}

/// A word as it is looked up: small letters, single blanks.
pub(super) fn folded(text: &str) -> String {
    text.to_lowercase().split_whitespace().collect::<Vec<_>>().join(" ")
}
