//! A whole text: its lines, blocks and names.

use std::collections::BTreeMap;

use super::{
    fault::{FaultCode, TextFault},
    parse,
    statement::{STEP_WORDS, SourceLine, Statement, Step},
    token::{self, Token},
};
use crate::plane::Point;

/// How deep repeats may stand in each other.
const DEEPEST: usize = 8;

/// Places by name: markers of the ground, and marks of the text.
pub type Places = BTreeMap<String, Point>;

/// A figure whose text is in order. What a ride of it says is told by [`super::ride`].
#[derive(Debug, Clone, PartialEq)]
pub struct Figure {
    /// Its lines, as they stand in the text.
    pub lines: Vec<SourceLine>,
    /// All that has a name, metres.
    pub places: Places,
}

/// What a line's first word makes of it, whatever is wrong behind.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Head {
    Start,
    Mark,
    Repeat,
    End,
    Step,
    Unknown,
}

struct Block {
    line: usize,
    filled: bool,
}

impl Figure {
    /// Reads a text among the places that the ground has names for.
    ///
    /// # Errors
    /// Every fault of the text, at most one a line, in order of line.
    ///
    /// ```
    /// use cavesson_core::figure::Figure;
    /// let faults = Figure::read("jog\nline to drum\ncircle lft 20\n", &Default::default()).unwrap_err();
    /// assert_eq!(faults.iter().map(|fault| (fault.line, fault.column)).collect::<Vec<_>>(), [(2, 9), (3, 8)]);
    /// ```
    pub fn read(text: &str, ground: &Places) -> Result<Figure, Vec<TextFault>> {
        let mut reader = Reader { places: ground.clone(), ..Reader::default() };
        let cut: Vec<_> = text.split('\n').map(token::cut).collect();
        for (n, line) in cut.iter().enumerate() {
            reader.line(n, &line.tokens, line.comment);
        }
        reader.close();
        reader.look_names_up();
        let faults: Vec<TextFault> = reader.faults.into_values().collect();
        if !faults.is_empty() {
            return Err(faults);
        }
        if !reader.lines.iter().any(|line| matches!(line.statement, Some(Statement::Step(_)))) {
            return Err(vec![TextFault::new(1, 1, FaultCode::Empty, "there is no step to ride")]);
        }
        Ok(Figure { lines: reader.lines, places: reader.places })
    }

    /// The names that it puts down itself, each with its line from 1.
    pub fn marks(&self) -> impl Iterator<Item = (&str, u32)> {
        self.lines.iter().zip(1..).filter_map(|(line, n)| match &line.statement {
            Some(Statement::Mark { name, .. }) => Some((name.text.as_str(), n)),
            _ => None,
        })
    }

    /// Its steps as they are ridden, repeats and all: the number of the line from 1, its first column, and the step.
    pub(super) fn ridden(&self) -> Unrolled<'_> {
        Unrolled { lines: &self.lines, at: 0, open: vec![] }
    }
}

#[derive(Default)]
struct Reader {
    lines: Vec<SourceLine>,
    places: Places,
    faults: BTreeMap<usize, TextFault>,
    open: Vec<Block>,
    started: bool,
    /// A step or a repeat stood already.
    begun: bool,
}

impl Reader {
    fn fault(&mut self, n: usize, column: u32, code: FaultCode, says: &str) {
        let told = TextFault::new(n as u32 + 1, column, code, says);
        let first = self.faults.entry(n).or_insert_with(|| told.clone());
        if told.code < first.code && first.code != FaultCode::Range {
            *first = told;
        }
    }

    fn line(&mut self, n: usize, tokens: &[Token<'_>], comment: Option<&str>) {
        let column = tokens.first().map_or(1, |token| token.column);
        let said = (!tokens.is_empty()).then(|| parse::statement(n as u32 + 1, tokens));
        let statement = match said {
            Some(Ok(statement)) => Some(statement),
            Some(Err(fault)) => {
                self.faults.insert(n, fault);
                None
            }
            None => None,
        };
        if !tokens.is_empty() {
            self.shape(n, head(&tokens[0]), column);
            self.mark(n, tokens, statement.as_ref());
        }
        self.lines.push(SourceLine { column, statement, comment: comment.map(str::to_owned) });
    }

    /// Blocks, and what comes too late.
    fn shape(&mut self, n: usize, head: Head, column: u32) {
        if head != Head::End
            && let Some(block) = self.open.last_mut()
        {
            block.filled = true;
        }
        match head {
            Head::Start | Head::Mark if self.begun => {
                self.fault(n, column, FaultCode::Order, "start and mark come before the first step and repeat");
            }
            _ => {}
        }
        match head {
            Head::Start => {
                if self.started {
                    self.fault(n, column, FaultCode::Twice, "there is a start already");
                }
                self.started = true;
            }
            Head::Repeat => {
                self.begun = true;
                self.open.push(Block { line: n, filled: false });
                if self.open.len() > DEEPEST {
                    self.fault(n, column, FaultCode::Deep, "repeats stand at most 8 deep in each other");
                }
            }
            Head::End => match self.open.pop() {
                None => self.fault(n, column, FaultCode::End, "no repeat is open here"),
                Some(block) if !block.filled => self.hollow(block.line),
                Some(_) => {}
            },
            Head::Step => self.begun = true,
            Head::Mark | Head::Unknown => {}
        }
    }

    fn hollow(&mut self, n: usize) {
        let column = self.lines[n].column;
        self.fault(n, column, FaultCode::Hollow, "there is nothing to repeat");
    }

    /// A mark whose name was read is there, whatever is wrong behind it.
    fn mark(&mut self, n: usize, tokens: &[Token<'_>], statement: Option<&Statement>) {
        let Some(name) = tokens.get(1).filter(|name| head(&tokens[0]) == Head::Mark && name.kind == token::Kind::Word)
        else {
            return;
        };
        if self.places.contains_key(name.text) {
            self.fault(n, name.column, FaultCode::Twice, "something has this name already");
            return;
        }
        let at = match statement {
            Some(Statement::Mark { x, y, .. }) => Point::new(x.metres(), y.metres()),
            _ => Point::default(),
        };
        self.places.insert(name.text.to_owned(), at);
    }

    fn close(&mut self) {
        while let Some(block) = self.open.pop() {
            let column = self.lines[block.line].column;
            self.fault(block.line, column, FaultCode::Open, "this repeat has no end");
        }
    }

    fn look_names_up(&mut self) {
        let unknown: Vec<(usize, u32)> = (self.lines.iter().enumerate())
            .filter_map(|(n, line)| {
                let name = line.statement.as_ref()?.name()?;
                (!self.places.contains_key(&name.text)).then_some((n, name.column))
            })
            .collect();
        for (n, column) in unknown {
            self.fault(n, column, FaultCode::Name, "nothing has this name");
        }
    }
}

fn head(first: &Token<'_>) -> Head {
    let known = |word: &str| first.is(word);
    match () {
        () if known("start") => Head::Start,
        () if known("mark") => Head::Mark,
        () if known("repeat") => Head::Repeat,
        () if known("end") => Head::End,
        () if STEP_WORDS.into_iter().any(known) => Head::Step,
        () => Head::Unknown,
    }
}

/// The steps of a figure in the order they are ridden.
pub(super) struct Unrolled<'a> {
    lines: &'a [SourceLine],
    at: usize,
    /// The line behind each open repeat, and how many times it comes yet.
    open: Vec<(usize, u8)>,
}

impl<'a> Iterator for Unrolled<'a> {
    type Item = (u32, u32, &'a Step);

    fn next(&mut self) -> Option<Self::Item> {
        loop {
            let line = self.lines.get(self.at)?;
            self.at += 1;
            match &line.statement {
                Some(Statement::Repeat(times)) => self.open.push((self.at, times - 1)),
                Some(Statement::End) => match self.open.last_mut() {
                    Some((first, left)) if *left > 0 => {
                        *left -= 1;
                        self.at = *first;
                    }
                    _ => {
                        self.open.pop();
                    }
                },
                Some(Statement::Step(step)) => return Some((self.at as u32, line.column, step)),
                _ => {}
            }
        }
    }
}
