//! What a figure asks of a horse, rung by rung and obstacle by obstacle.

use cavesson_core::{
    advice::Status,
    curriculum::{Curriculum, Gait},
    figure::{
        CourseItem, DrillNeed, Figure, FigureGait, FigureHorse, InGait, Obstacle, Ridden, RungAsked, StandsTo,
        WholeStrides, course, easiest_first, laid, rungs,
    },
    load::GaitMinutes,
    pattern::{Hand, Point},
};
use chrono::NaiveDate;
use serde::Serialize;
use utoipa::ToSchema;

use super::known::{Known, RungStanding, parts, rung_name};

/// A rung that the figure asks.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RungAskedOut {
    rung: String,
    /// Its name in the barn's curriculum; none where it has no such rung.
    name: Option<String>,
    hand: Option<Hand>,
    gait: Option<FigureGait>,
    lines: Vec<u32>,
    /// How it stands with the horse; none without a horse, or where nothing is known of it.
    status: Option<Status>,
    /// How likely it is owned by the date that was asked, 0 to 1; none where it is owned today, and where it is too early to say.
    chance: Option<f64>,
}

/// The part of a figure that a horse is furthest from.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct WeakestOut {
    /// Which of the rungs, from 0.
    rung: usize,
    /// What a drill for it is made of; none where no drill works on it.
    drill: Option<DrillNeed>,
}

/// An obstacle of a course.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct CourseItemOut {
    line: u32,
    obstacle: Obstacle,
    /// `Bridge`, or `Bridge 2` where there are more.
    name: String,
    gait: FigureGait,
    at: Point,
    rung: &'static str,
    rung_name: Option<String>,
    status: Option<Status>,
    /// 1 for the easiest of them for this horse; none without a horse.
    place: Option<usize>,
    /// The strides from the obstacle before it; none for the first.
    from_before: Option<WholeStrides>,
    /// The line of the last straight before it, which may be made longer or shorter.
    straight: Option<u32>,
    /// A smaller piece of it.
    smaller: &'static str,
}

/// An obstacle that may be laid at the end of a figure.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct LayOut {
    obstacle: Obstacle,
    name: &'static str,
    gait: FigureGait,
    /// The lines that lay it.
    text: String,
}

/// What may be laid at the end of a figure, for this horse.
pub(super) fn to_lay(horse: &FigureHorse) -> Vec<LayOut> {
    let poles = [FigureGait::Walk, FigureGait::Jog, FigureGait::Lope].map(|gait| (Obstacle::Poles, gait));
    let others = Obstacle::ALL.into_iter().filter(|it| *it != Obstacle::Poles).map(|it| (it, FigureGait::Walk));
    let lay = |(obstacle, gait): (Obstacle, FigureGait)| LayOut {
        obstacle,
        name: obstacle.named(),
        gait,
        text: laid(obstacle, gait, horse),
    };
    poles.into_iter().chain(others).map(lay).collect()
}

/// The rungs of a figure, held against a horse by a date.
pub(super) fn asked(
    ridden: &Ridden<'_>,
    known: Option<&Known>,
    by: Option<NaiveDate>,
) -> (Vec<RungAskedOut>, Option<WeakestOut>) {
    let all = rungs(ridden);
    let stand = |of: &RungAsked| known.map_or_else(RungStanding::default, |known| known.standing_of(of, by));
    let standings: Vec<RungStanding> = all.iter().map(stand).collect();
    let open = |it: &RungStanding| it.status != Some(Status::Owned);
    let likely = |it: &RungStanding| it.chance.or(it.ready).unwrap_or(0.0);
    let weakest = known.and_then(|_| {
        let rung = (0..all.len())
            .filter(|&n| open(&standings[n]))
            .min_by(|&a, &b| likely(&standings[a]).total_cmp(&likely(&standings[b])))?;
        Some(WeakestOut { rung, drill: DrillNeed::of_rung(&all[rung].rung) })
    });
    let out = all.into_iter().zip(standings).map(|(of, RungStanding { status, chance, .. })| {
        let (rung, hand, gait) = parts(&of.rung);
        RungAskedOut {
            name: rung_name(known, rung),
            rung: rung.to_owned(),
            hand,
            gait,
            lines: of.lines,
            status,
            chance,
        }
    });
    (out.collect(), weakest)
}

/// The obstacles of a figure, and their order for a horse.
pub(super) fn obstacles_of(
    figure: &Figure,
    ridden: &Ridden<'_>,
    horse: &FigureHorse,
    known: Option<&Known>,
) -> Vec<CourseItemOut> {
    let items = course(figure, ridden, horse);
    let curriculum: &Curriculum = if let Some(known) = known { &known.book.curriculum } else { Curriculum::standard() };
    let heights = curriculum.heights();
    let standing = |item: &CourseItem| {
        let at = [item.gait.word()].into();
        known.map_or_else(RungStanding::default, |known| known.at_worst(item.obstacle.rung(), None, &at, None))
    };
    let standings: Vec<RungStanding> = items.iter().map(standing).collect();
    let stands_to: Vec<StandsTo> = (items.iter().zip(&standings))
        .map(|(item, it)| StandsTo { owns: it.ready, height: heights.of(item.obstacle.rung()).unwrap_or(0) as usize })
        .collect();
    let order = easiest_first(&stands_to);
    let place = |n: usize| known.and_then(|_| order.iter().position(|it| *it == n)).map(|at| at + 1);
    (items.into_iter().zip(standings).enumerate())
        .map(|(n, (item, standing))| CourseItemOut {
            line: ridden.steps[item.step].line,
            obstacle: item.obstacle,
            name: item.name,
            gait: item.gait,
            at: item.at,
            rung: item.obstacle.rung(),
            rung_name: rung_name(known, item.obstacle.rung()),
            status: standing.status,
            place: place(n),
            from_before: item.from_before,
            straight: item.straight,
            smaller: item.obstacle.smaller(),
        })
        .collect()
}

/// The load of a figure once ridden, as of a ride: minutes × intensity, to the next whole one.
pub(super) fn load<'a>(gaits: impl Iterator<Item = (&'a FigureGait, &'a InGait)>) -> u32 {
    // A figure takes a minute or two: it is summed in seconds.
    let seconds = gaits.fold(GaitMinutes::default(), |sum, (gait, of)| {
        let at = match gait {
            FigureGait::Walk | FigureGait::Back | FigureGait::Side => Gait::Walk,
            FigureGait::Jog => Gait::Jog,
            FigureGait::Lope => Gait::Lope,
            FigureGait::Run => Gait::Run,
            FigureGait::Stand => Gait::Stand,
        };
        sum.plus(at, of.seconds.round() as u16)
    });
    seconds.load().div_ceil(60)
}
