//! A timer's events as comma-separated values (RFC 4180): `event,seconds`.

use cavesson_core::pattern::TimerEvent;

/// A line that cannot be read.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
#[error("line {line}: {text}")]
pub struct TimerError {
    /// From 1.
    pub line: u64,
    /// What is wrong.
    pub text: String,
}

/// A file has at most so many events.
const MOST: usize = 1000;

/// Reads events. A first line `event,seconds` is passed over.
///
/// # Errors
/// [`TimerError`]: the first line that is not an event and a time of 0 to 86 400 s.
///
/// ```
/// use cavesson_core::pattern::TimerEvent;
/// let events = cavesson_formats::timer::read("event,seconds\nstart,0\nsplit,3.25\n").unwrap();
/// assert_eq!(events[1], TimerEvent::Split(3.25));
/// assert_eq!(cavesson_formats::timer::read("begin,0").unwrap_err().line, 1);
/// ```
pub fn read(text: &str) -> Result<Vec<TimerEvent>, TimerError> {
    let mut out = vec![];
    let mut reader =
        csv::ReaderBuilder::new().has_headers(false).flexible(true).trim(csv::Trim::All).from_reader(text.as_bytes());
    for record in reader.records() {
        let record = record
            .map_err(|e| TimerError { line: e.position().map_or(0, csv::Position::line), text: e.to_string() })?;
        let line = record.position().map_or(0, csv::Position::line);
        let wrong = |text: String| TimerError { line, text };
        let (word, seconds) = (record.get(0).unwrap_or_default(), record.get(1).unwrap_or_default());
        if (word, seconds) == ("event", "seconds") {
            continue;
        }
        let t = seconds.parse::<f64>().ok().filter(|t| (0.0..=86_400.0).contains(t));
        let t = t.ok_or_else(|| wrong(format!("\"{}\" is not a time in seconds", short(seconds))))?;
        out.push(match word {
            "start" => TimerEvent::Start(t),
            "split" => TimerEvent::Split(t),
            "finish" => TimerEvent::Finish(t),
            "blocked" => TimerEvent::Blocked(t),
            "false-start" => TimerEvent::FalseStart(t),
            "no-signal" => TimerEvent::NoSignal(t),
            other => return Err(wrong(format!("\"{}\" is not an event of a timer", short(other)))),
        });
        if out.len() > MOST {
            return Err(wrong(format!("a file has at most {MOST} events")));
        }
    }
    Ok(out)
}

/// Writes events as they are read.
pub fn write(events: &[TimerEvent]) -> String {
    let line = |event: &TimerEvent| match event {
        TimerEvent::Start(t) => format!("start,{t:.3}\r\n"),
        TimerEvent::Split(t) => format!("split,{t:.3}\r\n"),
        TimerEvent::Finish(t) => format!("finish,{t:.3}\r\n"),
        TimerEvent::Blocked(t) => format!("blocked,{t:.3}\r\n"),
        TimerEvent::FalseStart(t) => format!("false-start,{t:.3}\r\n"),
        TimerEvent::NoSignal(t) => format!("no-signal,{t:.3}\r\n"),
    };
    std::iter::once("event,seconds\r\n".to_owned()).chain(events.iter().map(line)).collect()
}

fn short(text: &str) -> String {
    text.chars().take(40).collect()
}
