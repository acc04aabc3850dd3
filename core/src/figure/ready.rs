//! Figures that come with Cavesson, one or more for a ladder: to ride as they are, or to begin from. Places are from the left front
//! corner of a pen of at least 130 by 200 ft.

/// A figure that is ready to ride.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct ReadyFigure {
    /// What it is called.
    pub name: &'static str,
    /// Its text.
    pub text: &'static str,
}

/// Those that come with Cavesson.
///
/// ```
/// use cavesson_core::figure::{Figure, READY, ride};
/// for ready in READY {
///     assert!(ride(&Figure::read(ready.text, &Default::default()).unwrap()).is_ok(), "{}", ready.name);
/// }
/// ```
pub const READY: [ReadyFigure; 6] = [
    ReadyFigure { name: "Large and small circles", text: include_str!("../../figures/large-and-small.txt") },
    ReadyFigure { name: "Down the middle and back", text: include_str!("../../figures/down-the-middle.txt") },
    ReadyFigure { name: "Serpentine at the jog", text: include_str!("../../figures/serpentine.txt") },
    ReadyFigure { name: "Laps about three marks", text: include_str!("../../figures/three-marks.txt") },
    ReadyFigure { name: "Eight and counter-lope", text: include_str!("../../figures/eights.txt") },
    ReadyFigure { name: "Poles, bridge, gate", text: include_str!("../../figures/poles-bridge-gate.txt") },
];
