//! Figures against hand-worked ones, published dimensions, other ways to the same answer, and themselves in a mirror.

mod asks;
mod checks;
mod course;
mod drills;
mod faults;
mod ground;
mod path;
mod round_trip;

use cavesson_core::{
    figure::{Figure, Places, TextFault},
    pattern::{FOOT, Point},
};

pub(crate) fn feet(x: f64, y: f64) -> Point {
    Point::new(x * FOOT, y * FOOT)
}

pub(crate) fn places(of: &[(&str, f64, f64)]) -> Places {
    of.iter().map(|&(name, x, y)| (name.to_owned(), feet(x, y))).collect()
}

pub(crate) fn figure(text: &str) -> Figure {
    Figure::read(text, &Places::new()).unwrap_or_else(|faults| panic!("{text}: {faults:?}"))
}

/// `2:8 expected hand` for each fault.
pub(crate) fn told(faults: &[TextFault]) -> Vec<String> {
    let one = |fault: &TextFault| {
        let says = match fault.code {
            cavesson_core::figure::FaultCode::Expected => fault.says.split(", found").next().unwrap().to_owned(),
            code => code.to_string(),
        };
        format!("{}:{} {says}", fault.line, fault.column)
    };
    faults.iter().map(one).collect()
}
