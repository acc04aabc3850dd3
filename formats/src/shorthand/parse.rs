use cavesson_core::response::Weight;
use chrono::NaiveDate;

use super::{
    Diagnostic, Lexicon, ParsedLog, ParsedRide, Span, Word,
    facts::Fact,
    grammar::{JOINS, gait, seconds, side, tally},
    lexicon::folded,
    set::{Draft, SetError, Tally},
    tokens::{Kind, Token, header, tokens},
};

/// The most words that one name has.
const LONGEST: usize = 7;
/// The longest note that a ride carries, characters.
const NOTE: usize = 500;
/// So many words that mean nothing are offered the nearest one that does. Looking for it compares with every word there is, and who has
/// put these right reads the text again.
const MOST_NEAREST: usize = 60;

/// Reads a text. A ride begins with each header (`Juniper 2026-03-02:`); lines without one go on with the ride before them.
///
/// ```
/// use cavesson_core::curriculum::Curriculum;
/// use cavesson_formats::shorthand::{Lexicon, parse};
/// let lexicon = Lexicon::new(Curriculum::standard(), &[], &["Juniper".to_owned()]).unwrap();
/// let log = parse("Juniper: flex L 6/8 egg 1.5s, R 4/8 orange", &lexicon);
/// assert!(log.diagnostics.is_empty());
/// assert_eq!((log.rides[0].horse.as_deref(), log.rides[0].sets.len()), (Some("Juniper"), 2));
/// let wrong = parse("Juniper: flx L 6/8", &lexicon);
/// assert_eq!(wrong.diagnostics[0].nearest.as_deref(), Some("flex"));
/// ```
pub fn parse(text: &str, lexicon: &Lexicon<'_>) -> ParsedLog {
    let mut reader = Reader { lexicon, out: ParsedLog::default(), line: 0, offered: 0 };
    for (n, line) in text.lines().enumerate() {
        reader.line = n;
        let chars: Vec<char> = line.chars().collect();
        let rest = reader.header(&chars);
        reader.sets(&tokens(&chars, rest));
    }
    reader.out.diagnostics.sort_by_key(|t| t.span);
    reader.out
}

struct Reader<'l, 'a> {
    lexicon: &'l Lexicon<'a>,
    out: ParsedLog,
    line: usize,
    /// Words that were offered the nearest one.
    offered: usize,
}

impl<'a> Reader<'_, 'a> {
    fn span(&self, from: usize, to: usize) -> Span {
        Span { line: self.line, from, to }
    }

    fn knows(&mut self, from: usize, to: usize, says: impl Into<String>) {
        let span = self.span(from, to);
        self.out.words.push(Word { span, says: says.into() });
    }

    fn diagnose(&mut self, from: usize, to: usize, says: impl Into<String>, nearest: Option<String>) {
        let span = self.span(from, to);
        self.out.diagnostics.push(Diagnostic { span, says: says.into(), nearest });
    }

    /// The nearest word, for the first so many words.
    fn offer(&mut self, nearest: impl FnOnce(&Lexicon<'a>) -> Option<String>) -> Option<String> {
        self.offered += 1;
        if self.offered <= MOST_NEAREST { nearest(self.lexicon) } else { None }
    }

    fn ride(&mut self) -> &mut ParsedRide {
        if self.out.rides.is_empty() {
            self.out.rides.push(ParsedRide { line: self.line, ..ParsedRide::default() });
        }
        let last = self.out.rides.len() - 1;
        &mut self.out.rides[last]
    }

    /// Reads the header of a line, if it has one, and gives where the rest begins.
    fn header(&mut self, line: &[char]) -> usize {
        let Some(colon) = header(line) else { return 0 };
        let open = line[..colon].iter().position(|&c| c == '(');
        let words: Vec<Token> = tokens(&line[..open.unwrap_or(colon)], 0);
        let mut ride = ParsedRide { line: self.line, ..ParsedRide::default() };
        let mut name = words.as_slice();
        if let Some((last, before)) = words.split_last()
            && let Ok(date) = NaiveDate::parse_from_str(&last.text, "%Y-%m-%d")
        {
            self.knows(last.from, last.to, format!("ridden on {}", date.format("%-d %B %Y")));
            ride.date = Some(date);
            name = before;
        }
        if let (Some(first), Some(last)) = (name.first(), name.last()) {
            let text: String = line[first.from..last.to].iter().collect();
            match self.lexicon.horse(&text) {
                Some(horse) => {
                    ride.horse = Some(horse.to_owned());
                    self.knows(first.from, last.to, format!("the horse {horse}"));
                }
                None => {
                    let nearest = self.offer(|lexicon| lexicon.nearest_horse(&text));
                    self.diagnose(first.from, last.to, format!("no horse here is called \"{text}\""), nearest);
                }
            }
        } else if ride.date.is_none() && open.is_none() {
            self.diagnose(colon, colon + 1, "a horse or a day stands before a colon", None);
        }
        if let Some(open) = open {
            self.facts(line, open, colon, &mut ride);
        }
        self.knows(colon, colon + 1, "a ride begins");
        self.out.rides.push(ride);
        colon + 1
    }

    /// Reads what is told of a ride from a parenthesis to the colon.
    fn facts(&mut self, line: &[char], open: usize, colon: usize, ride: &mut ParsedRide) {
        let blank = |at: &usize| line[*at].is_whitespace();
        let close = (open + 1..colon).rev().find(|at| !blank(at)).filter(|&at| line[at] == ')');
        let Some(close) = close else {
            self.diagnose(open, colon, "this parenthesis is not closed before the colon", None);
            return;
        };
        self.knows(open, open + 1, "what is told of the ride");
        let mut from = open + 1;
        while from <= close {
            let to = (from..close).find(|&at| line[at] == ',').unwrap_or(close);
            let (first, last) = ((from..to).find(|at| !blank(at)), (from..to).rev().find(|at| !blank(at)));
            match first.zip(last) {
                Some((first, last)) => self.fact(first, last + 1, &line[first..=last], ride),
                None => self.diagnose(from.saturating_sub(1), to + 1, "nothing is told here", None),
            }
            self.knows(to, to + 1, if to < close { "and" } else { "that is all" });
            from = to + 1;
        }
    }

    fn fact(&mut self, from: usize, to: usize, text: &[char], ride: &mut ParsedRide) {
        let text: String = text.iter().collect();
        let Some(fact) = Fact::read(&text, self.lexicon) else {
            let says = format!("\"{text}\" is no rider, place, gear or minutes at a gait (walk 20 jog 10)");
            let nearest = self.offer(|lexicon| lexicon.nearest_fact(&text));
            self.diagnose(from, to, says, nearest);
            return;
        };
        let says = fact.says();
        if fact.tell(&mut ride.facts) {
            self.knows(from, to, says);
        } else {
            self.diagnose(from, to, "this was told already", None);
        }
    }

    fn sets(&mut self, tokens: &[Token]) {
        let mut before: Option<Draft<'a>> = None;
        let mut at = 0;
        while at < tokens.len() {
            let end = tokens[at..].iter().position(|t| is_mark(t.kind)).map_or(tokens.len(), |n| at + n);
            let of = before.take().map(|d| Draft { rungs: d.rungs, gait: d.gait, ..Draft::default() });
            let draft = self.set(&tokens[at..end], of);
            if let Some(mark) = tokens.get(end) {
                let says = if mark.kind == Kind::Next { "the next set" } else { "the same rung again" };
                self.knows(mark.from, mark.to, says);
                before = draft.filter(|_| mark.kind == Kind::Again);
            }
            at = end + 1;
        }
    }

    /// One set from its words; gives what was read for the next to go on from.
    fn set(&mut self, tokens: &[Token], of: Option<Draft<'a>>) -> Option<Draft<'a>> {
        let goes_on = of.is_some();
        let mut draft = of.unwrap_or_default();
        let diagnostics = self.out.diagnostics.len();
        let mut named = false;
        let mut spoken = false;
        let mut at = 0;
        while at < tokens.len() {
            let token = &tokens[at];
            match token.kind {
                Kind::Note => self.note(token),
                Kind::OpenNote => self.diagnose(token.from, token.to, "this quote is not closed", None),
                _ => {
                    let read = self.word(&tokens[at..], &mut draft, &mut named, goes_on);
                    spoken |= read.of_set;
                    at += read.used - 1;
                }
            }
            at += 1;
        }
        if spoken {
            match draft.finish() {
                Ok(set) => self.ride().sets.push(set),
                Err(error) if self.out.diagnostics.len() == diagnostics => {
                    self.diagnose(tokens[0].from, tokens[tokens.len() - 1].to, error.to_string(), None);
                }
                // What is wrong in it was said word by word; the whole of it waits for that.
                Err(_) => self.diagnose(
                    tokens[0].from,
                    tokens[tokens.len() - 1].to,
                    "this set waits for the word that is not understood",
                    None,
                ),
            }
        }
        (!draft.rungs.is_empty()).then_some(draft)
    }

    fn note(&mut self, token: &Token) {
        let room = NOTE.saturating_sub(self.ride().note.chars().count() + 1);
        if token.text.chars().count() > room {
            self.diagnose(token.from, token.to, format!("a note has at most {NOTE} characters"), None);
            return;
        }
        let note = &mut self.ride().note;
        if !note.is_empty() && !token.text.trim().is_empty() {
            note.push(' ');
        }
        note.push_str(token.text.trim());
        self.knows(token.from, token.to, "the note for tomorrow");
    }

    /// Reads the word, or the longest name that begins with it.
    fn word(&mut self, tokens: &[Token], draft: &mut Draft<'a>, named: &mut bool, goes_on: bool) -> WordRead {
        let words: Vec<String> =
            tokens.iter().take_while(|t| t.kind == Kind::Word).take(LONGEST).map(|t| folded(&t.text)).collect();
        for n in (1..=words.len()).rev() {
            let name = words[..n].join(" ");
            let (from, to) = (tokens[0].from, tokens[n - 1].to);
            if let Some(rungs) = self.lexicon.rungs(&name) {
                if *named {
                    self.diagnose(from, to, "a set has one rung: begin the next with · or ;", None);
                } else {
                    let ids: Vec<&str> = rungs.iter().map(|r| r.id.as_str()).collect();
                    let says = match rungs.as_slice() {
                        [one] => format!("{} {}", one.id, one.name),
                        _ => format!("{}, by the gait", ids.join(" or ")),
                    };
                    self.knows(from, to, says);
                    if goes_on {
                        draft.gait = None;
                    }
                    draft.rungs = rungs;
                    *named = true;
                }
                return WordRead { used: n, of_set: true };
            }
            if let Some(tag) = self.lexicon.fault(&name).map(str::to_owned) {
                self.knows(from, to, format!("a fault: {tag}"));
                if !draft.faults.contains(&tag) {
                    draft.faults.push(tag);
                }
                return WordRead { used: n, of_set: true };
            }
            if let Some(tag) = self.lexicon.sign(&name).map(str::to_owned) {
                self.knows(from, to, format!("a sign: {tag}"));
                let ride = self.ride();
                if !ride.signs.contains(&tag) {
                    ride.signs.push(tag);
                }
                return WordRead { used: n, of_set: false };
            }
        }
        let next = words.get(1).map(String::as_str);
        self.plain(tokens, &words[0], next, draft)
    }

    /// A word by itself: gait, side, counts, weight, seconds.
    fn plain(&mut self, tokens: &[Token], word: &str, next: Option<&str>, draft: &mut Draft<'a>) -> WordRead {
        let token = &tokens[0];
        let mut used = 1;
        let says = if JOINS.contains(&word) {
            self.knows(token.from, token.to, "joins");
            return WordRead { used, of_set: false };
        } else if let Some(gait) = gait(word) {
            once(&mut draft.gait, gait, "gait").map(|()| gait.phrase().to_owned())
        } else if let Some(side) = side(word) {
            once(&mut draft.side, side, "side").map(|()| format!("side: {side}"))
        } else if let Ok(weight) = word.parse::<Weight>() {
            once(&mut draft.weight, weight, "weight").map(|()| format!("at {}", weight.phrase()))
        } else if word == "soft" || word == "stiff" {
            once(&mut draft.soft, word == "soft", "soft or stiff").map(|()| format!("it came out {word}"))
        } else if let Some((time, n)) = seconds(word, next) {
            used = n;
            match time {
                Ok(time) => once(&mut draft.time, time, "time").map(|()| format!("in {time}")),
                Err(error) => Err(error.into()),
            }
        } else if let Some((tally, n)) = tally(word, next) {
            used = n;
            let says = in_words(&tally);
            once(&mut draft.tally, tally, "count").map(|()| says)
        } else {
            let nearest = self.offer(|lexicon| lexicon.nearest(word));
            self.diagnose(token.from, token.to, format!("\"{}\" means nothing here", token.text), nearest);
            return WordRead { used, of_set: true };
        };
        let to = tokens[used - 1].to;
        match says {
            Ok(says) => self.knows(token.from, to, says),
            Err(error) => self.diagnose(token.from, to, error.to_string(), None),
        }
        WordRead { used, of_set: true }
    }
}

struct WordRead {
    /// Words used up.
    used: usize,
    /// Whether it belongs to the set and not to the ride as a whole.
    of_set: bool,
}

fn is_mark(kind: Kind) -> bool {
    matches!(kind, Kind::Next | Kind::Again)
}

fn once<T: PartialEq>(place: &mut Option<T>, value: T, what: &'static str) -> Result<(), SetError> {
    match place {
        Some(before) if *before != value => Err(SetError::Twice(what)),
        _ => {
            *place = Some(value);
            Ok(())
        }
    }
}

fn in_words(tally: &Tally) -> String {
    match tally {
        Tally::Of { good, tried: None, all } => format!("{good} of {all}"),
        Tally::Of { good, tried: Some(tried), all } => format!("{good} whole and {tried} tried, of {all}"),
        Tally::Laps(n) => format!("{n} laps"),
        Tally::Steps(n) => format!("{n} steps"),
        Tally::Share(n) => format!("{n}% on the bridle rein"),
        Tally::Tries(t) => format!("{} tries", t.len()),
    }
}
