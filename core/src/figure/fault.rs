//! What is wrong with a text, and where.

use serde::Serialize;

use crate::words::words;

words! {
    "a code of a fault";
    /// What kind of fault it is. Of several on one line the first of this list is told.
    pub enum FaultCode {
        /// Something else should stand there.
        Expected,
        /// A number out of its range.
        Range,
        /// A start or a mark after the first step.
        Order,
        /// A second start, or a name that is taken.
        Twice,
        /// A name that nothing has.
        Name,
        /// An end with no repeat open.
        End,
        /// Repeats too deep in each other.
        Deep,
        /// A repeat without its end.
        Open,
        /// A repeat with nothing in it.
        Hollow,
        /// No step at all.
        Empty,
        /// The horse is not in a gait that the step takes.
        Gait,
        /// What the line should lead to is not ahead.
        Behind,
        /// What the arc should lead to lies within its circle.
        Inside,
        /// Too many parts.
        Long,
    }
}

/// One fault of a text.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TextFault {
    /// From 1.
    pub line: u32,
    /// In characters, from 1.
    pub column: u32,
    /// What kind it is.
    pub code: FaultCode,
    /// In words, as the command line has them.
    pub says: String,
    /// What could stand there, where something else was found: words of the language, and rules by name.
    pub wanted: Vec<String>,
}

impl TextFault {
    pub(super) fn new(line: u32, column: u32, code: FaultCode, says: impl Into<String>) -> TextFault {
        TextFault { line, column, code, says: says.into(), wanted: vec![] }
    }

    /// `expected hand or length, found "lft"`.
    pub(super) fn expected(line: u32, column: u32, wanted: &[&str], found: &str) -> TextFault {
        let says = format!("expected {}, found {found}", wanted.join(" or "));
        let wanted = wanted.iter().map(|&one| one.to_owned()).collect();
        TextFault { wanted, ..TextFault::new(line, column, FaultCode::Expected, says) }
    }
}

impl TextFault {
    /// Its place and its text: `2:8` and `expected hand, found "lft"`, or `6:17` and `range: turns are from 0.25 to 25, in quarters`.
    pub fn told(&self) -> (String, String) {
        let text = match self.code {
            FaultCode::Expected => self.says.clone(),
            code => format!("{code}: {}", self.says),
        };
        (format!("{}:{}", self.line, self.column), text)
    }
}
