//! A judge's sheet.

use serde::{Deserialize, Serialize};

/// A run begins with so many points (association rule books; from memory).
const BEGINS: i32 = 70;
/// The most penalties of one manoeuvre.
const MOST_PENALTIES: usize = 20;

/// A penalty, in halves of a point: ½, 1, 2 or 5 (association rule books; from memory).
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Penalty(u8);

impl Penalty {
    /// Those that there are, in halves.
    pub const ALL: [Penalty; 4] = [Penalty(1), Penalty(2), Penalty(4), Penalty(10)];

    /// Of so many halves; none where there is no such penalty.
    pub fn of_halves(halves: u8) -> Option<Penalty> {
        Penalty::ALL.into_iter().find(|penalty| penalty.0 == halves)
    }

    /// In halves.
    pub fn halves(self) -> u8 {
        self.0
    }
}

/// What a manoeuvre was given.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct MarkGiven {
    /// -3 to 3 halves; none where it is not scored yet.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(minimum = -3, maximum = 3))]
    pub score: Option<i8>,
    /// Penalties in halves: 1, 2, 4 and 10.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(max_items = 20))]
    pub penalties: Vec<u8>,
}

/// What is wrong with a mark.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum SheetError {
    /// Not one for each manoeuvre.
    #[error("{given} marks for {manoeuvres} manoeuvres: one for each")]
    Count {
        /// Marks given.
        given: usize,
        /// Manoeuvres of the run.
        manoeuvres: usize,
    },
    /// A score out of range.
    #[error("-3 to 3 halves")]
    Score(usize),
    /// No such penalty, or too many.
    #[error("half a point, 1, 2 or 5, and at most {MOST_PENALTIES} of them")]
    Penalty(usize),
    /// It is said to be done, and a manoeuvre has no score.
    #[error("this manoeuvre has no score yet")]
    Open(usize),
}

/// A sheet whose marks are in order.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Sheet(Vec<MarkGiven>);

impl Sheet {
    /// Checks the marks of a run with so many manoeuvres; every one has a score where the sheet is done.
    ///
    /// ```
    /// use cavesson_core::score::{MarkGiven, Sheet};
    /// let mark = |score, penalties: &[u8]| MarkGiven { score: Some(score), penalties: penalties.to_vec() };
    /// let sheet = Sheet::check(vec![mark(1, &[]), mark(-2, &[1]), mark(0, &[10])], 3, true).unwrap();
    /// assert_eq!(sheet.total(), 128, "70 + ½ - 1 - ½ - 5, in halves");
    /// assert!(Sheet::check(vec![mark(4, &[])], 1, false).is_err());
    /// ```
    ///
    /// # Errors
    /// The first mark that is not one.
    pub fn check(marks: Vec<MarkGiven>, manoeuvres: usize, done: bool) -> Result<Sheet, SheetError> {
        if marks.len() != manoeuvres {
            return Err(SheetError::Count { given: marks.len(), manoeuvres });
        }
        for (n, mark) in marks.iter().enumerate() {
            if mark.score.is_some_and(|score| !(-3..=3).contains(&score)) {
                return Err(SheetError::Score(n));
            }
            let known = |halves: &u8| Penalty::of_halves(*halves).is_some();
            if mark.penalties.len() > MOST_PENALTIES || !mark.penalties.iter().all(known) {
                return Err(SheetError::Penalty(n));
            }
            if done && mark.score.is_none() {
                return Err(SheetError::Open(n));
            }
        }
        Ok(Sheet(marks))
    }

    /// The marks, in order.
    pub fn marks(&self) -> &[MarkGiven] {
        &self.0
    }

    /// In halves of a point: seventy, the scores so far, less the penalties.
    pub fn total(&self) -> i32 {
        2 * BEGINS + self.0.iter().map(given).sum::<i32>()
    }
}

/// What a mark adds, halves.
fn given(mark: &MarkGiven) -> i32 {
    i32::from(mark.score.unwrap_or(0)) - mark.penalties.iter().map(|it| i32::from(*it)).sum::<i32>()
}

/// Halves as they are written: `70½`, `-1½`, `½`.
///
/// ```
/// use cavesson_core::score::halves;
/// assert_eq!([141, -3, 1, -1, 0, 2].map(halves), ["70½", "-1½", "½", "-½", "0", "1"]);
/// ```
pub fn halves(n: i32) -> String {
    let sign = if n < 0 { "-" } else { "" };
    match (n.unsigned_abs() / 2, n % 2 != 0) {
        (0, true) => format!("{sign}½"),
        (whole, true) => format!("{sign}{whole}½"),
        (whole, false) => format!("{sign}{whole}"),
    }
}

/// Points of one manoeuvre over all sheets of a run.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WherePoints {
    /// Which manoeuvre, from 0.
    pub manoeuvre: usize,
    /// The mean of what it added, halves; penalties off.
    pub mean: f64,
}

/// Where the points of a run go: what each manoeuvre added, the mean of the sheets, those that cost most first.
pub fn where_points_go(sheets: &[Sheet]) -> Vec<WherePoints> {
    let manoeuvres = sheets.iter().map(|sheet| sheet.0.len()).min().unwrap_or(0);
    let mean = |n: usize| sheets.iter().map(|sheet| f64::from(given(&sheet.0[n]))).sum::<f64>() / sheets.len() as f64;
    let mut all: Vec<WherePoints> =
        (0..manoeuvres).map(|manoeuvre| WherePoints { manoeuvre, mean: mean(manoeuvre) }).collect();
    all.sort_by(|a, b| a.mean.total_cmp(&b.mean));
    all
}
