//! Strict reading of a JSON document: every problem is collected with the path of the value at fault, and keys
//! that nobody asked for are refused.

use std::{cell::RefCell, fmt, rc::Rc};

use cavesson_core::figure::TextFault;
use chrono::NaiveDate;
use serde_json::{Map, Value};

/// What is wrong with one value.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Problem {
    path: String,
    text: String,
}

impl Problem {
    pub(crate) fn whole(text: impl Into<String>) -> Problem {
        Problem { path: "document".to_owned(), text: text.into() }
    }

    /// A fault of the document's text, by line and column.
    pub(crate) fn in_text(fault: &TextFault) -> Problem {
        let (place, text) = fault.told();
        Problem { path: format!("text:{place}"), text }
    }
}

impl fmt::Display for Problem {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}: {}", self.path, self.text)
    }
}

/// Where a value stands. Put into words only when there is something to say of it.
enum At<'a> {
    Root,
    Key(Rc<At<'a>>, &'a str),
    Item(Rc<At<'a>>, usize),
}

impl fmt::Display for At<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            At::Root => Ok(()),
            At::Key(parent, key) if matches!(**parent, At::Root) => f.write_str(key),
            At::Key(parent, key) => write!(f, "{parent}.{key}"),
            At::Item(parent, n) => write!(f, "{parent}[{n}]"),
        }
    }
}

/// A value and where it stands.
#[derive(Clone)]
pub(crate) struct Node<'a> {
    value: &'a Value,
    at: Rc<At<'a>>,
    problems: Rc<RefCell<Vec<Problem>>>,
}

impl<'a> Node<'a> {
    pub(crate) fn root(value: &'a Value) -> Node<'a> {
        Node { value, at: Rc::new(At::Root), problems: Rc::default() }
    }

    pub(crate) fn problems(&self) -> Vec<Problem> {
        self.problems.borrow().clone()
    }

    /// Notes a problem with this value.
    pub(crate) fn say(&self, text: impl Into<String>) {
        let path = match &*self.at {
            At::Root => "document".to_owned(),
            at => at.to_string(),
        };
        self.problems.borrow_mut().push(Problem { path, text: text.into() });
    }

    fn child(&self, at: At<'a>, value: &'a Value) -> Node<'a> {
        Node { value, at: Rc::new(at), problems: Rc::clone(&self.problems) }
    }

    /// An object with these keys, of which the optional ones may be missing.
    pub(crate) fn object(&self, required: &[&'a str], optional: &[&'a str]) -> Option<Object<'a>> {
        let Value::Object(map) = self.value else {
            self.say(format!("{} is not an object", short(self.value)));
            return None;
        };
        let known = |key: &str| required.contains(&key) || optional.contains(&key);
        for (key, value) in map.iter().filter(|(key, _)| !known(key)) {
            self.child(At::Key(Rc::clone(&self.at), key), value).say("this key is not known here");
        }
        for key in required.iter().filter(|key| !map.contains_key(**key)) {
            self.child(At::Key(Rc::clone(&self.at), key), self.value).say("is missing");
        }
        Some(Object { node: self.clone(), map })
    }

    pub(crate) fn list(&self) -> Vec<Node<'a>> {
        let Value::Array(items) = self.value else {
            self.say(format!("{} is not a list", short(self.value)));
            return vec![];
        };
        items.iter().enumerate().map(|(i, v)| self.child(At::Item(Rc::clone(&self.at), i), v)).collect()
    }

    /// A key of an object, where it is there; what is wrong is said when the object is read.
    pub(crate) fn peek(&self, key: &str) -> Option<Node<'a>> {
        let (key, value) = self.value.as_object()?.get_key_value(key)?;
        Some(self.child(At::Key(Rc::clone(&self.at), key), value))
    }

    /// The text of a value that is one.
    pub(crate) fn quiet_text(&self) -> Option<&'a str> {
        self.value.as_str()
    }

    pub(crate) fn text(&self) -> Option<&'a str> {
        let text = self.value.as_str();
        if text.is_none() {
            self.say(format!("{} is not a text", short(self.value)));
        }
        text
    }

    pub(crate) fn is_null(&self) -> bool {
        self.value.is_null()
    }

    pub(crate) fn boolean(&self) -> Option<bool> {
        let value = self.value.as_bool();
        if value.is_none() {
            self.say(format!("{} is neither true nor false", short(self.value)));
        }
        value
    }

    pub(crate) fn number(&self) -> Option<f64> {
        let value = self.value.as_f64();
        if value.is_none() {
            self.say(format!("{} is not a number", short(self.value)));
        }
        value
    }

    /// A text read by `FromStr`.
    pub(crate) fn word<T: std::str::FromStr<Err: fmt::Display>>(&self) -> Option<T> {
        match self.text()?.parse() {
            Ok(value) => Some(value),
            Err(e) => {
                self.say(e.to_string());
                None
            }
        }
    }

    pub(crate) fn date(&self) -> Option<NaiveDate> {
        let text = self.text()?;
        let date = NaiveDate::parse_from_str(text, "%Y-%m-%d").ok().filter(|_| text.len() == 10);
        if date.is_none() {
            self.say(format!("\"{text}\" is not a date"));
        }
        date
    }
}

/// An object whose keys were checked.
pub(crate) struct Object<'a> {
    node: Node<'a>,
    map: &'a Map<String, Value>,
}

impl<'a> Object<'a> {
    /// The value of a key, where it stands.
    pub(crate) fn get(&self, key: &str) -> Option<Node<'a>> {
        let (key, value) = self.map.get_key_value(key)?;
        Some(self.node.child(At::Key(Rc::clone(&self.node.at), key), value))
    }

    /// The number of a key, from the least to the most, both in.
    pub(crate) fn within(&self, key: &str, least: f64, most: f64) -> Option<f64> {
        let node = self.get(key)?;
        let value = node.number()?;
        if !(least..=most).contains(&value) {
            node.say(format!("{value} is not within {least} to {most}"));
            return None;
        }
        Some(value)
    }

    /// The number of a key, over 0 and at most this.
    pub(crate) fn over_zero(&self, key: &str, most: f64) -> Option<f64> {
        let value = self.within(key, 0.0, most)?;
        if value > 0.0 {
            return Some(value);
        }
        self.get(key)?.say(format!("{value} is not over 0"));
        None
    }
}

/// Six decimals: what an answer tells.
pub(crate) fn rounded(value: f64) -> f64 {
    (value * 1e6).round() / 1e6
}

fn short(value: &Value) -> String {
    let text = value.to_string();
    match text.char_indices().nth(40) {
        Some((at, _)) => format!("{}…", &text[..at]),
        None => text,
    }
}
