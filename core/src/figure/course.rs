//! A trail course: the obstacles of a figure in order, what each asks, and the strides between them.

use serde::{Deserialize, Serialize};

use super::{
    checks::{Between, FigureHorse, pole_limits, way},
    read::Figure,
    ride::{Ridden, RiddenStep},
    statement::{FigureGait, Step},
};
use crate::{count::ObstacleStage, pattern::FOOT, plane::Point, words::words};

words! {
    "an obstacle";
    /// A kind of obstacle. Mud, water and gaps are steps whose comment begins with that word.
    pub enum Obstacle {
        Poles,
        Bridge,
        StepDown,
        Plank,
        Mud,
        Water,
        Gate,
        BackThrough,
        SidePass,
        Gap,
    }
}

impl Obstacle {
    /// How far a try at it can get: onto it by steps where there is something to stand on, else through it or not.
    pub fn stages(self) -> &'static [ObstacleStage] {
        use ObstacleStage::{Crosses, Looks, Toward};
        match self {
            Obstacle::Bridge | Obstacle::StepDown | Obstacle::Plank | Obstacle::Mud | Obstacle::Water => {
                &ObstacleStage::ALL
            }
            _ => &[Looks, Toward, Crosses],
        }
    }

    /// The rung that it asks in the standard curriculum.
    pub fn rung(self) -> &'static str {
        match self {
            Obstacle::Poles => "O1",
            Obstacle::Bridge => "O2",
            Obstacle::Plank => "O3",
            Obstacle::StepDown => "O4",
            Obstacle::Mud | Obstacle::Water => "O5",
            Obstacle::Gate => "O6",
            Obstacle::BackThrough => "O7",
            Obstacle::SidePass | Obstacle::Gap => "O8",
        }
    }

    /// A smaller piece of it, for a horse that does not get further (common practice).
    pub fn smaller(self) -> &'static str {
        match self {
            Obstacle::Poles => "One pole, at the walk.",
            Obstacle::Bridge | Obstacle::StepDown => "One foot on, and away again. Then two.",
            Obstacle::Plank => "Two planks side by side, then one.",
            Obstacle::Mud | Obstacle::Water => "The edge of it, then along the edge.",
            Obstacle::Gate => "Stand beside it, hand on it, and walk away.",
            Obstacle::BackThrough => "Walk through it, stop in it, back one step.",
            Obstacle::SidePass | Obstacle::Gap => "One step sideways, away from the posts.",
        }
    }

    /// What it is called.
    pub fn named(self) -> &'static str {
        match self {
            Obstacle::Poles => "Poles",
            Obstacle::Bridge => "Bridge",
            Obstacle::StepDown => "Bridge with a step down",
            Obstacle::Plank => "Plank",
            Obstacle::Mud => "Mud",
            Obstacle::Water => "Water",
            Obstacle::Gate => "Gate",
            Obstacle::BackThrough => "Back-through",
            Obstacle::SidePass => "Side pass",
            Obstacle::Gap => "Gap",
        }
    }

    /// The obstacle that a step is, with what its comment says of it.
    fn of(step: &RiddenStep<'_>, comment: Option<&str>) -> Option<Obstacle> {
        let says = comment.and_then(|comment| comment.split(|c: char| !c.is_alphabetic()).next());
        let is = |word: &str| says.is_some_and(|says| says.eq_ignore_ascii_case(word));
        match step.step {
            Step::Poles { .. } => Some(Obstacle::Poles),
            Step::Bridge { .. } => match super::asks::bridge(step.step) {
                Some("O3") => Some(Obstacle::Plank),
                Some("O4") => Some(Obstacle::StepDown),
                _ => Some(Obstacle::Bridge),
            },
            Step::Gate(..) => Some(Obstacle::Gate),
            Step::Backthrough { .. } => Some(Obstacle::BackThrough),
            Step::Sidepass(..) if is("gap") => Some(Obstacle::Gap),
            Step::Sidepass(..) => Some(Obstacle::SidePass),
            Step::Line(_) | Step::LineTo(..) if is("mud") => Some(Obstacle::Mud),
            Step::Line(_) | Step::LineTo(..) if is("water") => Some(Obstacle::Water),
            _ => None,
        }
    }
}

/// The strides from one obstacle to the next, and what would make them whole.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WholeStrides {
    /// As it lies.
    pub strides: f64,
    /// The nearest whole number, one at least.
    pub whole: u32,
    /// How much longer the way has to be for that, metres; under 0 shorter.
    pub longer: f64,
}

/// An obstacle of a course.
#[derive(Debug, Clone, PartialEq)]
pub struct CourseItem {
    /// Which step, from 0.
    pub step: usize,
    /// What it is.
    pub obstacle: Obstacle,
    /// What it is called on this course: `Bridge`, or `Bridge 2` where there are more.
    pub name: String,
    /// The gait it is taken in.
    pub gait: FigureGait,
    /// Where it begins, metres.
    pub at: Point,
    /// The way from the obstacle before it; none for the first, and where the one follows at once.
    pub from_before: Option<WholeStrides>,
    /// The line of the last straight on that way, which may be made longer or shorter.
    pub straight: Option<u32>,
}

/// The obstacles of a figure, in order.
///
/// ```
/// use cavesson_core::figure::{Figure, FigureHorse, Obstacle, course, ride};
/// let text = "walk\npoles 4 spacing 22 in\nline 17\nbridge 10 wide 4\nline 12  # water, to the hock\n";
/// let figure = Figure::read(text, &Default::default()).unwrap();
/// let items = course(&figure, &ride(&figure).unwrap(), &FigureHorse::ordinary());
/// assert_eq!(items.iter().map(|it| it.obstacle).collect::<Vec<_>>(), [Obstacle::Poles, Obstacle::Bridge, Obstacle::Water]);
/// // 17 ft in walk strides of 4.2 ft: four, and 0.2 ft too much.
/// let between = items[1].from_before.unwrap();
/// assert_eq!((between.whole, (between.longer / 0.3048 * 10.0).round()), (4, -2.0));
/// ```
pub fn course(figure: &Figure, ridden: &Ridden<'_>, horse: &FigureHorse) -> Vec<CourseItem> {
    let comment = |line: u32| figure.lines[line as usize - 1].comment.as_deref();
    let found: Vec<(usize, Obstacle)> = (ridden.steps.iter().enumerate())
        .filter_map(|(n, step)| Obstacle::of(step, comment(step.line)).map(|obstacle| (n, obstacle)))
        .collect();
    let same = |of: Obstacle| found.iter().filter(move |(_, obstacle)| *obstacle == of);
    (found.iter().enumerate())
        .map(|(n, &(step, obstacle))| {
            let name = match same(obstacle).count() {
                1 => obstacle.named().to_owned(),
                _ => format!("{} {}", obstacle.named(), same(obstacle).take_while(|it| it.0 <= step).count()),
            };
            let before = &ridden.steps[step].before;
            let from = n.checked_sub(1).map(|before| way(ridden, horse, found[before].0, step));
            let since = n.checked_sub(1).map_or(0, |before| found[before].0 + 1);
            let lines = ridden.steps[since..step].iter().rev();
            let straight = lines.filter(|it| matches!(it.step, Step::Line(_))).map(|it| it.line).next();
            let (gait, at, from_before) = (before.gait, before.at, from.and_then(whole));
            CourseItem { step, obstacle, name, gait, at, from_before, straight }
        })
        .collect()
}

fn whole(way: Between) -> Option<WholeStrides> {
    let Between { length, strides, .. } = way;
    if strides <= 0.0 {
        return None;
    }
    let whole = strides.round().max(1.0);
    Some(WholeStrides { strides, whole: whole as u32, longer: whole * length / strides - length })
}

/// How a horse stands to what an obstacle asks.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct StandsTo {
    /// How likely it owns the rung, 0 to 1; none where it was not asked yet.
    pub owns: Option<f64>,
    /// How high the rung stands in the curriculum.
    pub height: usize,
}

/// The obstacles from the easiest for a horse to the hardest: by how likely it owns what each asks, those it was not asked last, and
/// then by how high the rung stands. Gives the places in the list.
///
/// ```
/// use cavesson_core::figure::{StandsTo, easiest_first};
/// let of = |owns, height| StandsTo { owns, height };
/// assert_eq!(easiest_first(&[of(None, 9), of(Some(0.3), 4), of(Some(0.9), 7), of(None, 5)]), [2, 1, 3, 0]);
/// ```
pub fn easiest_first(all: &[StandsTo]) -> Vec<usize> {
    let mut order: Vec<usize> = (0..all.len()).collect();
    let owns = |n: usize| all[n].owns.unwrap_or(-1.0);
    order.sort_by(|&a, &b| owns(b).total_cmp(&owns(a)).then(all[a].height.cmp(&all[b].height)));
    order
}

/// Strides of run-up that an obstacle is laid with.
const RUN_UP: f64 = 3.0;

/// The lines that lay an obstacle at the end of a figure, for a horse: poles as far apart as its stride asks, within the published
/// figures; bridges and chutes of usual measures (common practice).
///
/// ```
/// use cavesson_core::figure::{FigureGait, FigureHorse, Obstacle, laid};
/// let text = laid(Obstacle::Poles, FigureGait::Jog, &FigureHorse::ordinary());
/// assert_eq!(text, "jog\nline 19\npoles 4 spacing 38 in\n");
/// // A short-striding horse gets them as near as rule books have them, and no nearer.
/// let short = FigureHorse::ordinary().striding([None, Some(1.2), None]);
/// assert!(laid(Obstacle::Poles, FigureGait::Jog, &short).ends_with("spacing 36 in\n"));
/// ```
pub fn laid(obstacle: Obstacle, gait: FigureGait, horse: &FigureHorse) -> String {
    let gait = if obstacle == Obstacle::Poles { gait } else { FigureGait::Walk };
    let stride = horse.gaits.get(&gait).map_or(0.0, |of| of.stride);
    let lead = if gait.has_lead() { " left" } else { "" };
    let run_up = format!("{gait}{lead}\nline {:.0}\n", RUN_UP * stride / FOOT);
    let lies = match obstacle {
        Obstacle::Poles => {
            let own = if gait == FigureGait::Lope { stride } else { stride / 2.0 };
            let [least, most] = pole_limits(gait);
            format!("poles 4 spacing {:.0} in\n", own.clamp(least, most) / FOOT * 12.0)
        }
        Obstacle::Bridge => "bridge 10 wide 42 in\n".to_owned(),
        Obstacle::StepDown => "bridge 12 wide 48 in drop\n".to_owned(),
        Obstacle::Plank => "bridge 10 wide 14 in\n".to_owned(),
        Obstacle::Mud => "line 12  # mud\n".to_owned(),
        Obstacle::Water => "line 12  # water\n".to_owned(),
        Obstacle::Gate => "stop\ngate left\n".to_owned(),
        Obstacle::BackThrough => "stop\nbackthrough straight 12 wide 30 in\n".to_owned(),
        Obstacle::SidePass => "stop\nsidepass left 8\n".to_owned(),
        Obstacle::Gap => "stop\nsidepass left 8  # gap between two posts\n".to_owned(),
    };
    run_up + &lies
}
