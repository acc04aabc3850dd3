//! Collects what is wrong with the fields of a request, so that all of it is told at once.

use chrono::{Datelike, NaiveDate};
use serde::{Deserialize, Deserializer, de::Error};

use crate::{FieldProblem, Problem, auth::weakness};

/// Years that a calendar of the barn reaches over. Beyond them days are typed wrongly, and sums over them leave the calendar.
const YEARS: std::ops::RangeInclusive<i32> = 1990..=2199;

/// Reads a day of a body that a calendar of the barn reaches.
pub(crate) fn within_years<'de, D: Deserializer<'de>>(from: D) -> Result<NaiveDate, D::Error> {
    let day = NaiveDate::deserialize(from)?;
    out_of_years(day).map_or(Ok(day), |why| Err(D::Error::custom(why)))
}

/// The same of a day that may be left out.
pub(crate) fn within_years_if_any<'de, D: Deserializer<'de>>(from: D) -> Result<Option<NaiveDate>, D::Error> {
    let day = Option::<NaiveDate>::deserialize(from)?;
    day.and_then(out_of_years).map_or(Ok(day), |why| Err(D::Error::custom(why)))
}

/// What is wrong with a day that no calendar of the barn reaches.
fn out_of_years(day: NaiveDate) -> Option<String> {
    let (from, to) = (YEARS.start(), YEARS.end());
    (!YEARS.contains(&day.year())).then(|| format!("{day} is not within the years {from} to {to}"))
}

/// Whether a character is kept: no control character besides line breaks and tabs, and none that turns the direction of what stands
/// around it, so that a name reads as it is (Unicode Standard Annex 9).
fn is_kept(c: char) -> bool {
    let turns = matches!(c, '\u{202A}'..='\u{202E}' | '\u{2066}'..='\u{2069}');
    !turns && (!c.is_control() || matches!(c, '\n' | '\r' | '\t'))
}

#[derive(Default)]
pub(crate) struct Check {
    errors: Vec<FieldProblem>,
}

impl Check {
    pub(crate) fn say(&mut self, field: &str, detail: impl Into<String>) {
        self.errors.push(FieldProblem { field: field.to_owned(), detail: detail.into() });
    }

    pub(crate) fn that(&mut self, holds: bool, field: &str, detail: impl Into<String>) {
        if !holds {
            self.say(field, detail);
        }
    }

    /// A text of at least one and at most `most` characters, without the blanks around it.
    pub(crate) fn text(&mut self, field: &str, value: &str, most: usize) -> String {
        let text = value.trim();
        self.that(!text.is_empty(), field, "this cannot be empty");
        self.length(field, text, most);
        self.that(!text.contains('\n'), field, "this is one line");
        text.to_owned()
    }

    /// A text that may be empty.
    pub(crate) fn note(&mut self, field: &str, value: &str, most: usize) -> String {
        self.length(field, value, most);
        value.trim().to_owned()
    }

    /// At most so many characters, all of which can be kept and read.
    fn length(&mut self, field: &str, text: &str, most: usize) {
        let n = text.chars().count();
        self.that(n <= most, field, format!("this has {n} characters; at most {most} fit"));
        self.that(
            text.chars().all(is_kept),
            field,
            "this holds a character that cannot be seen; type it again without it",
        );
    }

    /// A day that a calendar of the barn reaches.
    pub(crate) fn day(&mut self, field: &str, day: NaiveDate) {
        if let Some(why) = out_of_years(day) {
            self.say(field, why);
        }
    }

    pub(crate) fn email(&mut self, field: &str, value: &str) -> String {
        let email = self.text(field, value, 254);
        let well_formed = email
            .split_once('@')
            .is_some_and(|(name, host)| !name.is_empty() && host.contains('.') && !host.contains('@'));
        self.that(
            well_formed && !email.contains(char::is_whitespace),
            field,
            "this is not an e-mail address; it looks like name@example.com",
        );
        email
    }

    /// A password that is long enough and not easily guessed by whoever knows what the person goes by.
    pub(crate) fn password(&mut self, field: &str, value: &str, known: &[&str]) {
        if let Some(why) = weakness(value, known) {
            self.say(field, why);
        }
    }

    pub(crate) fn done(self) -> Result<(), Problem> {
        if self.errors.is_empty() { Ok(()) } else { Err(Problem::fields(self.errors)) }
    }
}
