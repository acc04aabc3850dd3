use serde::{Deserialize, Serialize};

use super::Need;

/// A question on which the trade disagrees. A barn picks one answer, and may pick another for a horse.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct School {
    /// Its id: `head`.
    pub id: String,
    /// As it is asked: `Head carriage`.
    pub question: String,
    /// The answers; the first is taken where none was picked.
    pub choice: Vec<Choice>,
}

/// One answer to a [`School`], and what it does to the curriculum.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Choice {
    /// Its id: `level`.
    pub id: String,
    /// Its name.
    pub name: String,
    /// What it holds, in a sentence.
    pub says: String,
    /// The cue that stands for the school's id in braces in a rung's ask.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub cue: String,
    /// What some rungs show besides.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub shows: Vec<Shows>,
    /// Rungs counted as owned where others need them.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub passes: Vec<String>,
    /// Rungs not taught.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub leaves_out: Vec<String>,
    /// What some rungs need besides.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub needs: Vec<ExtraNeed>,
}

/// A need that holds only in one school.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct ExtraNeed {
    /// The rung that needs it.
    pub rung: String,
    /// What it needs.
    pub need: Need,
}

/// A caution, a fault or both that some rungs show in one school.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Shows {
    /// The rungs.
    pub rungs: Vec<String>,
    /// A caution.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub caution: Option<String>,
    /// The tag of a fault.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub fault: Option<String>,
}
