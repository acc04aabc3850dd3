//! One line, from its tokens to what it says. The language is LL(1): each token is decided on by itself, and what could have stood
//! there is noted on the way.

use super::{
    decimal::{Decimal, Measure, Unit},
    fault::{FaultCode, TextFault},
    statement::{
        Adjusted, ChangeKind, Chute, FigureGait, GaitAsked, Leads, Name, STEP_WORDS, StartAt, Statement, Step, Sweep,
    },
    token::{Kind, Token},
};
use crate::pattern::Hand;

/// The longest length and the furthest coordinate, metres: 2000 and 5000 ft.
const LONGEST: f64 = 609.6;
const FURTHEST: f64 = 1524.0;
const MOST_TIMES: u8 = 99;
/// Rounding of a measure in another unit, metres.
const ROUNDING: f64 = 1e-9;

type Parsed<T> = Result<T, TextFault>;

pub(super) struct Parser<'a> {
    line: u32,
    tokens: &'a [Token<'a>],
    at: usize,
    /// What could stand where the next token is, as far as was asked.
    wanted: Vec<&'static str>,
}

/// Reads one line that has a token.
pub(super) fn statement(line: u32, tokens: &[Token<'_>]) -> Parsed<Statement> {
    let mut parser = Parser { line, tokens, at: 0, wanted: vec![] };
    let said = parser.statement()?;
    match parser.next() {
        Some(_) => {
            parser.wanted.push("end of line");
            parser.fail()
        }
        None => Ok(said),
    }
}

impl<'a> Parser<'a> {
    fn next(&self) -> Option<Token<'a>> {
        self.tokens.get(self.at).copied()
    }

    fn advance(&mut self) {
        self.at += 1;
        self.wanted.clear();
    }

    fn fail<T>(&self) -> Parsed<T> {
        let (column, found) = match self.next() {
            Some(token) => (token.column, format!("\"{}\"", token.text)),
            None => (self.tokens.last().map_or(1, Token::behind), "the end of the line".to_owned()),
        };
        Err(TextFault::expected(self.line, column, &self.wanted, &found))
    }

    fn range<T>(&self, column: u32, says: &str) -> Parsed<T> {
        Err(TextFault::new(self.line, column, FaultCode::Range, says))
    }

    /// Whether the word stands there; it is taken if so.
    fn takes(&mut self, word: &'static str) -> bool {
        let there = self.next().is_some_and(|token| token.is(word));
        if there {
            self.advance();
        } else {
            self.wanted.push(word);
        }
        there
    }

    fn needs(&mut self, word: &'static str) -> Parsed<()> {
        if self.takes(word) { Ok(()) } else { self.fail() }
    }

    /// One of some words, each with what it stands for.
    fn one_of<T: Copy>(&mut self, rule: &'static str, known: &[(&str, T)]) -> Option<T> {
        let found = self.next().and_then(|token| known.iter().find(|(word, _)| token.is(word)));
        match found {
            Some(_) => self.advance(),
            None => self.wanted.push(rule),
        }
        found.map(|&(_, what)| what)
    }

    fn number_next(&self) -> bool {
        self.next().is_some_and(|token| token.kind == Kind::Number)
    }

    fn number(&mut self, rule: &'static str) -> Parsed<(Decimal, u32)> {
        let Some(token) = self.next().filter(|token| token.kind == Kind::Number) else {
            self.wanted.push(rule);
            return self.fail();
        };
        self.advance();
        match Decimal::read(token.text) {
            Some(number) => Ok((number, token.column)),
            None => self.range(token.column, "a number has at most 6 digits before the point and 4 after it"),
        }
    }

    fn measure(&mut self, rule: &'static str) -> Parsed<(Measure, u32)> {
        let (number, column) = self.number(rule)?;
        let units = Unit::ALL.map(|unit| (unit.word(), unit));
        let unit = self.one_of("unit", &units).unwrap_or(Unit::Ft);
        Ok((Measure { number, unit }, column))
    }

    fn length(&mut self) -> Parsed<Measure> {
        let (length, column) = self.measure("length")?;
        if length.metres() > 0.0 && length.metres() <= LONGEST + ROUNDING {
            return Ok(length);
        }
        self.range(column, "a length is over 0 and at most 2000 ft")
    }

    fn coordinate(&mut self) -> Parsed<Measure> {
        let (place, column) = self.measure("coordinate")?;
        if place.metres().abs() <= FURTHEST + ROUNDING {
            return Ok(place);
        }
        self.range(column, "a coordinate is from -5000 to 5000 ft")
    }

    fn degrees(&mut self, in_range: impl Fn(f64) -> bool, says: &str) -> Parsed<Decimal> {
        let (degrees, column) = self.number("degrees")?;
        self.takes("deg");
        if in_range(degrees.value()) { Ok(degrees) } else { self.range(column, says) }
    }

    fn count(&mut self) -> Parsed<u8> {
        let typed = self.next().map_or("", |token| token.text);
        let (count, column) = self.number("count")?;
        match count.count(MOST_TIMES).filter(|_| !typed.contains('.')) {
            Some(count) => Ok(count),
            None => self.range(column, "a count is a whole number from 1 to 99"),
        }
    }

    fn name(&mut self) -> Parsed<Name> {
        let Some(token) = self.next().filter(|token| token.kind == Kind::Word) else {
            self.wanted.push("name");
            return self.fail();
        };
        self.advance();
        Ok(Name { text: token.text.to_owned(), column: token.column })
    }

    fn hand(&mut self) -> Parsed<Hand> {
        let known = Hand::ALL.map(|hand| (hand.word(), hand));
        match self.one_of("hand", &known) {
            Some(hand) => Ok(hand),
            None => self.fail(),
        }
    }

    fn gait(&mut self, rule: &'static str) -> Parsed<GaitAsked> {
        let gaits = [FigureGait::Walk, FigureGait::Jog, FigureGait::Lope, FigureGait::Run];
        let Some(gait) = self.one_of(rule, &gaits.map(|gait| (gait.word(), gait))) else { return self.fail() };
        let lead = if gait.has_lead() { Some(self.hand()?) } else { None };
        Ok(GaitAsked { gait, lead })
    }

    fn statement(&mut self) -> Parsed<Statement> {
        let first = self.next().map(|token| token.text.to_ascii_lowercase()).unwrap_or_default();
        match first.as_str() {
            "start" => {
                self.advance();
                self.start()
            }
            "mark" => {
                self.advance();
                Ok(Statement::Mark { name: self.name()?, x: self.coordinate()?, y: self.coordinate()? })
            }
            "repeat" => {
                self.advance();
                Ok(Statement::Repeat(self.count()?))
            }
            "end" => {
                self.advance();
                Ok(Statement::End)
            }
            word => Ok(Statement::Step(self.step(word)?)),
        }
    }

    fn start(&mut self) -> Parsed<Statement> {
        let at = if self.number_next() {
            StartAt::Place(self.coordinate()?, self.coordinate()?)
        } else {
            self.wanted.push("coordinate");
            self.needs("at")?;
            StartAt::Name(self.name()?)
        };
        self.needs("heading")?;
        let heading = self.degrees(|d| (0.0..360.0).contains(&d), "a heading is from 0 to under 360 degrees")?;
        Ok(Statement::Start { at, heading })
    }

    fn step(&mut self, word: &str) -> Parsed<Step> {
        if matches!(word, "walk" | "jog" | "lope" | "run") {
            return Ok(Step::Gait(self.gait("step")?));
        }
        if !STEP_WORDS.contains(&word) || self.next().is_none_or(|token| token.kind != Kind::Word) {
            self.wanted.push("step");
            return self.fail();
        }
        self.advance();
        match word {
            "line" => self.line(),
            "circle" => self.circle(),
            "arc" => self.arc(),
            "eight" => self.eight(),
            "serpentine" => self.serpentine(),
            "stop" => Ok(Step::Stop),
            "back" => Ok(Step::Back(self.length()?)),
            "sidepass" => Ok(Step::Sidepass(self.hand()?, self.length()?)),
            "rollback" => self.rollback(),
            "turnaround" => self.turnaround(),
            "pivot" => {
                let hand = self.hand()?;
                let most = "a pivot is over 0 and at most 360 degrees";
                Ok(Step::Pivot(hand, self.degrees(|d| d > 0.0 && d <= 360.0, most)?))
            }
            "change" => self.change(),
            "poles" => {
                let count = self.count()?;
                self.needs("spacing")?;
                Ok(Step::Poles { count, spacing: self.length()? })
            }
            "gate" => Ok(Step::Gate(self.hand()?, self.length_if_any()?)),
            "bridge" => self.bridge(),
            "backthrough" => self.backthrough(),
            _ => self.wait(),
        }
    }

    fn length_if_any(&mut self) -> Parsed<Option<Measure>> {
        if self.number_next() {
            return self.length().map(Some);
        }
        self.wanted.push("length");
        Ok(None)
    }

    fn line(&mut self) -> Parsed<Step> {
        if self.number_next() {
            return Ok(Step::Line(self.length()?));
        }
        self.wanted.push("length");
        self.needs("to")?;
        let name = self.name()?;
        let adjusted = if self.takes("short") {
            Adjusted::Short(self.length()?)
        } else if self.takes("past") {
            Adjusted::Past(self.length()?)
        } else {
            Adjusted::Beside
        };
        Ok(Step::LineTo(name, adjusted))
    }

    fn times(&mut self) -> Parsed<Option<u8>> {
        if self.takes("times") { self.count().map(Some) } else { Ok(None) }
    }

    fn circle(&mut self) -> Parsed<Step> {
        let (hand, radius) = (self.hand()?, self.length()?);
        let times = self.times()?;
        Ok(Step::Circle { hand, radius, times, counter: self.takes("counter") })
    }

    fn arc(&mut self) -> Parsed<Step> {
        let (hand, radius) = (self.hand()?, self.length()?);
        let sweep = if self.number_next() {
            let says = "an arc is over 0 and at most 3600 degrees";
            Sweep::Degrees(self.degrees(|d| d > 0.0 && d <= 3600.0, says)?)
        } else {
            self.wanted.push("degrees");
            self.needs("toward")?;
            Sweep::Toward(self.name()?)
        };
        Ok(Step::Arc { hand, radius, sweep, counter: self.takes("counter") })
    }

    fn kind(&mut self) -> Parsed<ChangeKind> {
        if self.takes("simple") {
            return Ok(ChangeKind::Simple);
        }
        self.needs("flying")?;
        Ok(ChangeKind::Flying)
    }

    fn leads(&mut self) -> Parsed<Leads> {
        if self.takes("change") {
            return Ok(Leads::Change(self.kind()?));
        }
        Ok(if self.takes("counter") { Leads::Counter } else { Leads::AsTheyAre })
    }

    fn eight(&mut self) -> Parsed<Step> {
        let (hand, radius) = (self.hand()?, self.length()?);
        let times = self.times()?;
        Ok(Step::Eight { hand, radius, times, leads: self.leads()? })
    }

    fn serpentine(&mut self) -> Parsed<Step> {
        let (hand, radius) = (self.hand()?, self.length()?);
        self.needs("loops")?;
        let loops = self.count()?;
        let straight = if self.takes("straight") { Some(self.length()?) } else { None };
        Ok(Step::Serpentine { hand, radius, loops, straight, leads: self.leads()? })
    }

    fn rollback(&mut self) -> Parsed<Step> {
        let hand = self.hand()?;
        let leave = if self.takes("leave") { Some(self.gait("gait")?) } else { None };
        Ok(Step::Rollback { hand, leave })
    }

    fn turnaround(&mut self) -> Parsed<Step> {
        let hand = self.hand()?;
        let (turns, column) = self.number("turns")?;
        if turns.in_quarters() && (0.25..=25.0).contains(&turns.value()) {
            return Ok(Step::Turnaround(hand, turns));
        }
        self.range(column, "turns are from 0.25 to 25, in quarters")
    }

    fn change(&mut self) -> Parsed<Step> {
        let kind = self.kind()?;
        let jog = if kind == ChangeKind::Simple { self.length_if_any()? } else { None };
        Ok(Step::Change { kind, jog })
    }

    fn bridge(&mut self) -> Parsed<Step> {
        let length = self.length()?;
        self.needs("wide")?;
        let wide = self.length()?;
        Ok(Step::Bridge { length, wide, drop: self.takes("drop") })
    }

    fn backthrough(&mut self) -> Parsed<Step> {
        let chute = if self.takes("straight") {
            Chute::Straight
        } else {
            self.needs("ell")?;
            Chute::Ell(self.hand()?, self.length()?)
        };
        let length = self.length()?;
        self.needs("wide")?;
        Ok(Step::Backthrough { chute, length, wide: self.length()? })
    }

    fn wait(&mut self) -> Parsed<Step> {
        let (seconds, column) = self.number("seconds")?;
        self.takes("s");
        if seconds.value() > 0.0 && seconds.value() <= 3600.0 {
            return Ok(Step::Wait(seconds));
        }
        self.range(column, "a wait is over 0 and at most 3600 s")
    }
}
