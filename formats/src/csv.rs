//! The log as comma-separated values (RFC 4180): a row a set, the rows of one horse and day being one ride.
//!
//! Columns, in any order, `horse`, `date` and `rung` at least:
//! `date,horse,rung,gait,side,gave,tried,none,count,weight,seconds,faults,signs,note`. `count` is written as in the shorthand
//! (`3laps soft`), on rungs that are not counted in asks.

use std::collections::BTreeMap;

use chrono::NaiveDate;
use csv::{ReaderBuilder, StringRecord, WriterBuilder};

use crate::shorthand::{
    Diagnostic, Lexicon, ParsedLog, ParsedRide, Set, SetResult, Span, Word, parse as parse_shorthand, write_count,
    write_set,
};

/// More columns than any table of rides has: what stands in such a line is something else.
const MOST_COLUMNS: usize = 100;

/// The columns, in the order in which they are written.
pub const COLUMNS: [&str; 14] = [
    "date", "horse", "rung", "gait", "side", "gave", "tried", "none", "count", "weight", "seconds", "faults", "signs",
    "note",
];

/// Reads rows as the shorthand is read: what is wrong stands at its line.
///
/// ```
/// use cavesson_core::curriculum::Curriculum;
/// use cavesson_formats::{csv, shorthand::Lexicon};
/// let lexicon = Lexicon::new(Curriculum::standard(), &[], &["Juniper".to_owned()]).unwrap();
/// let log = csv::read("date,horse,rung,side,gave,none\n2026-03-02,Juniper,S1,left,6,2\n", &lexicon);
/// assert!(log.diagnostics.is_empty(), "{:?}", log.diagnostics);
/// assert_eq!(log.rides[0].sets[0].rung, "S1");
/// ```
pub fn read(text: &str, lexicon: &Lexicon<'_>) -> ParsedLog {
    let mut out = ParsedLog::default();
    let mut rows = ReaderBuilder::new().trim(csv::Trim::All).from_reader(text.as_bytes());
    let lines: Vec<usize> = text.lines().map(|l| l.chars().count()).collect();
    let span = |line: usize| Span { line, from: 0, to: lines.get(line).copied().unwrap_or(1).max(1) };
    let heads = match rows.headers() {
        Ok(heads) => heads.clone(),
        Err(e) => {
            out.diagnostics.push(diagnose(span(0), e.to_string()));
            return out;
        }
    };
    if heads.len() > MOST_COLUMNS {
        let says = format!("there are {} columns in the first line; they are {}", heads.len(), COLUMNS.join(", "));
        out.diagnostics.push(diagnose(span(0), says));
        return out;
    }
    for (n, head) in heads.iter().enumerate() {
        let known = COLUMNS.contains(&head.to_lowercase().as_str());
        let twice = heads.iter().take(n).any(|h| h.eq_ignore_ascii_case(head));
        if !known || twice {
            let says = if twice { "stands there twice" } else { "is no column here" };
            out.diagnostics.push(diagnose(span(0), format!("\"{head}\" {says}; columns are {}", COLUMNS.join(", "))));
        }
    }
    for needed in ["date", "horse", "rung"] {
        if !heads.iter().any(|h| h.eq_ignore_ascii_case(needed)) {
            out.diagnostics.push(diagnose(span(0), format!("the column {needed} is missing")));
        }
    }
    if !out.diagnostics.is_empty() {
        return out;
    }
    let at: BTreeMap<String, usize> = heads.iter().enumerate().map(|(n, h)| (h.to_lowercase(), n)).collect();
    for row in rows.records() {
        match row {
            Ok(row) => {
                let line = row.position().map_or(0, |p| line_at(text, p.byte()));
                Row { row: &row, at: &at, line, span: span(line) }.read(lexicon, &mut out);
            }
            Err(e) => {
                let line = e.position().map_or(0, |p| line_at(text, p.byte()));
                out.diagnostics.push(diagnose(span(line), e.to_string()));
            }
        }
    }
    out
}

/// The line, from 0, of the first thing at or behind a byte that does not end a line.
fn line_at(text: &str, byte: u64) -> usize {
    let bytes = text.as_bytes();
    let mut at = (byte as usize).min(bytes.len());
    while bytes.get(at).is_some_and(|b| matches!(b, b'\r' | b'\n')) {
        at += 1;
    }
    bytes[..at].iter().filter(|b| **b == b'\n').count()
}

fn diagnose(span: Span, says: String) -> Diagnostic {
    Diagnostic { span, says, nearest: None }
}

struct Row<'r> {
    row: &'r StringRecord,
    at: &'r BTreeMap<String, usize>,
    line: usize,
    span: Span,
}

impl Row<'_> {
    fn cell(&self, column: &str) -> &str {
        self.at.get(column).and_then(|&n| self.row.get(n)).unwrap_or_default()
    }

    fn read(&self, lexicon: &Lexicon<'_>, out: &mut ParsedLog) {
        let before = out.diagnostics.len();
        let date = NaiveDate::parse_from_str(self.cell("date"), "%Y-%m-%d").ok();
        if date.is_none() {
            let says = format!("\"{}\" is no date; one looks like 2026-03-02", self.cell("date"));
            out.diagnostics.push(diagnose(self.span, says));
        }
        let said = parse_shorthand(&self.in_shorthand(), lexicon);
        out.diagnostics.extend(said.diagnostics.into_iter().map(|t| Diagnostic { span: self.span, ..t }));
        if self.cell("horse").is_empty() {
            out.diagnostics.push(diagnose(self.span, "which horse?".to_owned()));
        }
        let Some(ride) = said.rides.into_iter().next().filter(|_| out.diagnostics.len() == before) else { return };
        out.words
            .push(Word { span: self.span, says: ride.sets.iter().map(write_set).collect::<Vec<_>>().join(" · ") });
        match out.rides.last_mut().filter(|r| r.horse == ride.horse && r.date == date) {
            Some(last) => {
                last.sets.extend(ride.sets);
                for sign in ride.signs {
                    if !last.signs.contains(&sign) {
                        last.signs.push(sign);
                    }
                }
                if last.note.is_empty() {
                    last.note = ride.note;
                }
            }
            None => out.rides.push(ParsedRide { line: self.line, date, ..ride }),
        }
    }

    /// The row as a line of shorthand.
    fn in_shorthand(&self) -> String {
        let side = match self.cell("side").to_lowercase().as_str() {
            "both" | "" => String::new(),
            side => side.to_owned(),
        };
        let number = |column: &str| self.cell(column).parse::<u16>().unwrap_or(0);
        let (gave, tried, none) = (number("gave"), number("tried"), number("none"));
        let counts = match self.cell("count") {
            "" => format!("{gave}+{tried}/{}", u32::from(gave) + u32::from(tried) + u32::from(none)),
            count => count.to_owned(),
        };
        // A cell that is no number is read as a word of its own, so that it is pointed at.
        let odd = ["gave", "tried", "none"]
            .map(|c| self.cell(c))
            .into_iter()
            .filter(|c| !c.is_empty() && c.parse::<u16>().is_err());
        let seconds = match self.cell("seconds") {
            "" => String::new(),
            seconds => format!("{seconds}s"),
        };
        let faults = self.cell("faults").replace([';', ','], " ");
        let signs = self.cell("signs").replace([';', ','], " ");
        let note = match self.cell("note").replace('"', "'").replace(['\n', '\r'], " ") {
            note if note.is_empty() => String::new(),
            note => format!(" \"{note}\""),
        };
        let plain = |cell: &str| cell.replace(['·', ';', '|', ',', '"', ':', '\n', '\r'], "?");
        let mut words = vec![plain(self.cell("rung")), plain(self.cell("gait")), plain(&side), plain(&counts)];
        words.extend(odd.map(&plain));
        words.extend([plain(self.cell("weight")), plain(&seconds), plain(&faults), plain(&signs)]);
        format!("{}: {}{note}", plain(self.cell("horse")), words.join(" "))
    }
}

/// Writes rides as rows, with a line of column names.
///
/// # Errors
/// Never in practice: the rows go to memory.
pub fn write(rides: &[ParsedRide]) -> Result<String, csv::Error> {
    let mut out = WriterBuilder::new().terminator(csv::Terminator::CRLF).from_writer(vec![]);
    out.write_record(COLUMNS)?;
    for ride in rides {
        for (n, set) in ride.sets.iter().enumerate() {
            out.write_record(row(ride, set, n == 0))?;
        }
    }
    let bytes = out.into_inner().map_err(|e| csv::Error::from(e.into_error()))?;
    Ok(String::from_utf8_lossy(&bytes).into_owned())
}

fn row(ride: &ParsedRide, set: &Set, first: bool) -> [String; 14] {
    let (gave, tried, none, count) = match &set.result {
        SetResult::Reps { gave, tried, none } => (gave.to_string(), tried.to_string(), none.to_string(), String::new()),
        SetResult::Counted(count) => (String::new(), String::new(), String::new(), write_count(count)),
    };
    let reps = count.is_empty();
    [
        ride.date.map(|d| d.to_string()).unwrap_or_default(),
        ride.horse.clone().unwrap_or_default(),
        set.rung.clone(),
        set.gait.word().to_owned(),
        set.side.word().to_owned(),
        gave,
        tried,
        none,
        count,
        if reps { set.weight.word().to_owned() } else { String::new() },
        set.time.map(|t| t.seconds().to_string()).unwrap_or_default(),
        set.faults.join(" "),
        if first { ride.signs.join(" ") } else { String::new() },
        if first { ride.note.clone() } else { String::new() },
    ]
}
