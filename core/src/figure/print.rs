//! A figure as a text again, as it is or in a mirror.

use super::{
    decimal::{Decimal, Measure},
    read::Figure,
    statement::{Adjusted, Chute, GaitAsked, Leads, SourceLine, StartAt, Statement, Step, Sweep},
};
use crate::pattern::Hand;

/// Which way round a figure is printed.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Glass {
    Plain,
    Mirror,
}

impl Figure {
    /// In lower case with single blanks, indented in its repeats; comments and the number of times and units as they were typed.
    ///
    /// ```
    /// use cavesson_core::figure::Figure;
    /// let typed = Figure::read("LOPE Right\ncircle right 40.0ft#easy\n", &Default::default()).unwrap();
    /// assert_eq!(typed.text(), "lope right\ncircle right 40  # easy\n");
    /// assert_eq!(typed.mirrored(), "lope left\ncircle left 40  # easy\n");
    /// ```
    pub fn text(&self) -> String {
        self.printed(Glass::Plain)
    }

    /// With left and right swapped.
    pub fn mirrored(&self) -> String {
        self.printed(Glass::Mirror)
    }

    fn printed(&self, glass: Glass) -> String {
        let (mut text, mut deep, mut blank) = (String::new(), 0, false);
        for line in &self.lines {
            if line.statement == Some(Statement::End) {
                deep -= 1;
            }
            let printed = one(line, glass);
            if printed.is_empty() {
                blank = true;
                continue;
            }
            if blank && !text.is_empty() {
                text.push('\n');
            }
            blank = false;
            text.push_str(&"  ".repeat(deep));
            text.push_str(&printed);
            text.push('\n');
            if matches!(line.statement, Some(Statement::Repeat(_))) {
                deep += 1;
            }
        }
        text
    }
}

fn one(line: &SourceLine, glass: Glass) -> String {
    let said = line.statement.as_ref().map(|statement| glass.statement(statement));
    let comment = line.comment.as_ref().map(|text| if text.is_empty() { "#".to_owned() } else { format!("# {text}") });
    [said, comment].into_iter().flatten().collect::<Vec<_>>().join("  ")
}

/// The word and its measure, where it has one: ` short 10`.
fn with(word: &str, what: Option<impl std::fmt::Display>) -> String {
    what.map(|what| format!(" {word} {what}")).unwrap_or_default()
}

fn if_so(word: &str, so: bool) -> String {
    if so { format!(" {word}") } else { String::new() }
}

impl Glass {
    fn hand(self, hand: Hand) -> Hand {
        if self == Glass::Mirror { hand.other() } else { hand }
    }

    fn across(self, x: Measure) -> Measure {
        if self == Glass::Mirror { x.negated() } else { x }
    }

    fn heading(self, heading: Decimal) -> Decimal {
        if self == Glass::Mirror { heading.mirrored_heading() } else { heading }
    }

    fn gait(self, asked: GaitAsked) -> String {
        match asked.lead {
            Some(lead) => format!("{} {}", asked.gait, self.hand(lead)),
            None => asked.gait.to_string(),
        }
    }

    fn statement(self, statement: &Statement) -> String {
        match statement {
            Statement::Start { at, heading } => {
                let at = match at {
                    StartAt::Place(x, y) => format!("{} {y}", self.across(*x)),
                    StartAt::Name(name) => format!("at {}", name.text),
                };
                format!("start {at} heading {} deg", self.heading(*heading))
            }
            Statement::Mark { name, x, y } => format!("mark {} {} {y}", name.text, self.across(*x)),
            Statement::Repeat(times) => format!("repeat {times}"),
            Statement::End => "end".to_owned(),
            Statement::Step(step) => self.step(step),
        }
    }

    fn step(self, step: &Step) -> String {
        let word = step.word();
        match step {
            Step::Gait(asked) => self.gait(*asked),
            Step::Line(length) | Step::Back(length) => format!("{word} {length}"),
            Step::LineTo(name, adjusted) => format!("line to {}{}", name.text, adjusted_text(*adjusted)),
            Step::Circle { hand, radius, times, counter } => {
                format!("circle {} {radius}{}{}", self.hand(*hand), with("times", *times), if_so("counter", *counter))
            }
            Step::Arc { hand, radius, sweep, counter } => {
                let sweep = match sweep {
                    Sweep::Degrees(degrees) => format!("{degrees} deg"),
                    Sweep::Toward(name) => format!("toward {}", name.text),
                };
                format!("arc {} {radius} {sweep}{}", self.hand(*hand), if_so("counter", *counter))
            }
            Step::Eight { hand, radius, times, leads } => {
                format!("eight {} {radius}{}{}", self.hand(*hand), with("times", *times), leads_text(*leads))
            }
            Step::Serpentine { hand, radius, loops, straight, leads } => {
                let rest = format!("{}{}", with("straight", *straight), leads_text(*leads));
                format!("serpentine {} {radius} loops {loops}{rest}", self.hand(*hand))
            }
            Step::Stop => word.to_owned(),
            Step::Sidepass(hand, length) => format!("sidepass {} {length}", self.hand(*hand)),
            Step::Rollback { hand, leave } => {
                format!("rollback {}{}", self.hand(*hand), with("leave", leave.map(|gait| self.gait(gait))))
            }
            Step::Turnaround(hand, turns) => format!("turnaround {} {turns}", self.hand(*hand)),
            Step::Pivot(hand, degrees) => format!("pivot {} {degrees} deg", self.hand(*hand)),
            Step::Change { kind, jog } => format!("change {kind}{}", jog.map(|d| format!(" {d}")).unwrap_or_default()),
            Step::Poles { count, spacing } => format!("poles {count} spacing {spacing}"),
            Step::Gate(hand, length) => {
                format!("gate {}{}", self.hand(*hand), length.map(|d| format!(" {d}")).unwrap_or_default())
            }
            Step::Bridge { length, wide, drop } => format!("bridge {length} wide {wide}{}", if_so("drop", *drop)),
            Step::Backthrough { chute, length, wide } => {
                let chute = match chute {
                    Chute::Straight => "straight".to_owned(),
                    Chute::Ell(hand, first) => format!("ell {} {first}", self.hand(*hand)),
                };
                format!("backthrough {chute} {length} wide {wide}")
            }
            Step::Wait(seconds) => format!("wait {seconds} s"),
        }
    }
}

fn adjusted_text(adjusted: Adjusted) -> String {
    match adjusted {
        Adjusted::Beside => String::new(),
        Adjusted::Short(by) => format!(" short {by}"),
        Adjusted::Past(by) => format!(" past {by}"),
    }
}

fn leads_text(leads: Leads) -> String {
    match leads {
        Leads::AsTheyAre => String::new(),
        Leads::Change(kind) => format!(" change {kind}"),
        Leads::Counter => " counter".to_owned(),
    }
}
