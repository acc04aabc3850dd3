//! Plans against a general-purpose exact solver (`microlp`, mixed-integer linear programming by branch and bound), on weeks that
//! are too large for trying every plan, and what a freer week may never cost.

use cavesson_core::schedule::{
    DAYS, Effort, Heat, Horse, Pace, Place, Ride, Rider, SHORT, Span, WeekProblem, Work, breaks, plan, score,
};
use microlp::{ComparisonOp, OptimizationDirection, Problem, SolutionStatus, SolveOutcome, Variable};
use proptest::prelude::*;

use crate::ways::{hours, ways};

fn quietly(week: &WeekProblem, rounds: u32) -> i64 {
    let rides = plan(week, Effort { seed: 3, rounds }, &mut |_| Some(Pace::FULL));
    assert_eq!(breaks(week, &rides), vec![]);
    score(week, &rides)
}

/// The best score there is: a variable for each way of each ride, the rules as sums of them.
fn exactly(week: &WeekProblem) -> i64 {
    let mut problem = Problem::new(OptimizationDirection::Maximize);
    let all = ways(week);
    let cost = |r: &Ride| week.works[r.work].riders.iter().find(|c| c.0 == r.rider).map_or(0, |c| c.1);
    let vars: Vec<Variable> = all.iter().map(|r| problem.add_binary_var(-(cost(r) as f64))).collect();
    let mut at_most = |takes: &dyn Fn(&Ride) -> f64, most: f64| {
        let sum: Vec<(Variable, f64)> =
            all.iter().zip(&vars).map(|(r, v)| (*v, takes(r))).filter(|t| t.1 != 0.0).collect();
        if !sum.is_empty() {
            problem.add_constraint(&sum, ComparisonOp::Le, most);
        }
    };
    let horse = |r: &Ride| week.works[r.work].horse;
    let load = |r: &Ride| f64::from(week.works[r.work].load);
    for day in 0..DAYS as u8 {
        for slot in (0..24 * 60).step_by(week.slot_minutes.into()) {
            let there = |r: &Ride| r.day == day && r.start <= slot && slot < r.start + week.works[r.work].minutes;
            for rider in 0..week.riders.len() {
                at_most(&|r| f64::from(u8::from(there(r) && r.rider == rider)), 1.0);
            }
            for (n, place) in week.places.iter().enumerate() {
                at_most(&|r| f64::from(u8::from(there(r) && r.place == n)), place.at_once.into());
            }
        }
        at_most(
            &|r| if r.day == day { week.works[r.work].cows.into() } else { 0.0 },
            week.cows[usize::from(day)].into(),
        );
        for (n, h) in week.horses.iter().enumerate() {
            at_most(&|r| f64::from(u8::from(r.day == day && horse(r) == n)), 1.0);
            at_most(
                &|r| if horse(r) == n && (r.day == day || r.day == day + 1) { load(r) } else { 0.0 },
                h.two_days.into(),
            );
        }
        for (n, work) in week.works.iter().enumerate() {
            let near = |r: &Ride| r.work == n && (day..day + work.gap_days).contains(&r.day);
            at_most(&|r| f64::from(u8::from(near(r))), 1.0);
        }
    }
    for (n, h) in week.horses.iter().enumerate() {
        at_most(&|r| f64::from(u8::from(horse(r) == n)), h.most.into());
        at_most(&|r| if horse(r) == n { load(r) } else { 0.0 }, h.week.into());
    }
    // The worths of a work fall, so that its rides take the first ones by themselves.
    for (n, work) in week.works.iter().enumerate() {
        let mut sum: Vec<(Variable, f64)> =
            all.iter().zip(&vars).filter(|(r, _)| r.work == n).map(|(_, v)| (*v, 1.0)).collect();
        sum.extend(work.worth.iter().map(|w| (problem.add_var(*w as f64, (0.0, 1.0)), -1.0)));
        problem.add_constraint(&sum, ComparisonOp::Eq, 0.0);
    }
    for (n, h) in week.horses.iter().enumerate() {
        let mut sum: Vec<(Variable, f64)> =
            all.iter().zip(&vars).filter(|(r, _)| horse(r) == n).map(|(_, v)| (*v, 1.0)).collect();
        sum.push((problem.add_var(-(SHORT as f64), (0.0, f64::from(h.least))), 1.0));
        problem.add_constraint(&sum, ComparisonOp::Ge, h.least.into());
    }
    match problem.solve().unwrap() {
        SolveOutcome::Solution(best) if best.status() == SolutionStatus::Optimal => best.objective().round() as i64,
        other => panic!("not solved to the end: {other:?}"),
    }
}

prop_compose! {
    /// Two horses with two works each, two riders, a pen that holds one and an arena, three days.
    fn week()(
        least in prop::collection::vec(0u8..4, 2),
        works in prop::collection::vec(
            (prop::sample::select(vec![30u16, 45, 60]), 10u32..50, 1i64..12, 0i64..8, 1u8..3, 0u16..2, 0i64..4, prop::bool::ANY), 4),
        from in prop::collection::vec(7u16..9, 2),
        long in 1u16..3,
        hot in 0u32..60,
    ) -> WeekProblem {
        WeekProblem {
            slot_minutes: 30,
            riders: (0..2)
                .map(|r| Rider { id: format!("r{r}"), hours: (0..3).map(|d| hours(d, from[r], from[r] + long)).collect() })
                .collect(),
            places: [("pen", 1), ("arena", 2)]
                .map(|(id, at_once)| Place { id: id.into(), at_once, hours: (0..3).map(|d| hours(d, 6, 20)).collect() })
                .to_vec(),
            horses: least
                .iter()
                .enumerate()
                .map(|(n, &least)| Horse { id: format!("h{n}"), least, most: 3, two_days: 70, week: 110, away: vec![] })
                .collect(),
            works: works
                .into_iter()
                .enumerate()
                .map(|(n, (minutes, load, first, drop, gap_days, cows, second, pen))| Work {
                    id: format!("w{n}"),
                    horse: n / 2,
                    minutes,
                    load,
                    places: vec![usize::from(!pen)],
                    riders: vec![(0, 0), (1, second)],
                    worth: vec![first, (first - drop).max(0)],
                    gap_days,
                    cows,
                })
                .collect(),
            heat: vec![Heat { span: hours(1, 8, 9), most_load: hot }],
            cows: [1; DAYS],
            day_names: WeekProblem::numbered_days(),
            before: vec![],
            fixed: vec![],
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 16, ..ProptestConfig::default() })]

    #[test]
    fn weeks_of_some_riders_and_places_are_planned_as_well_as_can_be(week in week()) {
        prop_assert_eq!(quietly(&week, 10), exactly(&week));
    }

    /// Any plan of a week is one of the same week with another hour in it, so that the best of that is never worse; and on weeks
    /// of this size the best is found.
    #[test]
    fn an_added_free_hour_is_never_worse(week in week(), rider in 0usize..2, day in 0u8..4, from in 6u16..19) {
        let mut freer = week.clone();
        let hours = &mut freer.riders[rider].hours;
        // Hours do not overlap; those that touch are not joined.
        prop_assume!(hours.iter().all(|h| !h.overlaps(day, 60 * from, 60)));
        hours.push(Span { day, from: 60 * from, to: 60 * (from + 1) });
        prop_assert!(quietly(&freer, 30) >= quietly(&week, 10));
    }
}

/// Six horses that want three rides each, in mornings that hold twelve half hours: some horse is short whatever is done, and which ones
/// are decides the score.
fn crowded() -> WeekProblem {
    let mornings: Vec<Span> = (0..3).map(|d| hours(d, 7, 9)).collect();
    let work = |n: usize, minutes, worth: &[i64]| Work {
        id: format!("w{n}-{minutes}"),
        horse: n,
        minutes,
        load: 20,
        places: vec![0],
        riders: vec![(0, 0)],
        worth: worth.to_vec(),
        gap_days: 1,
        cows: 0,
    };
    WeekProblem {
        slot_minutes: 30,
        riders: vec![Rider { id: "r".into(), hours: mornings.clone() }],
        places: vec![Place { id: "arena".into(), at_once: 1, hours: mornings }],
        horses: (0..6)
            .map(|n| Horse { id: format!("h{n}"), least: 3, most: 3, two_days: 90, week: 200, away: vec![] })
            .collect(),
        // What is worth most takes twice the time, and half of the horses have nothing short to ride.
        works: (0..6)
            .flat_map(|n| {
                let long = work(n, 60, &[30 + n as i64, 9]);
                let short = (n % 2 == 0).then(|| work(n, 30, &[4, 3, 2]));
                [Some(long), short].into_iter().flatten()
            })
            .collect(),
        heat: vec![],
        cows: [0; DAYS],
        before: vec![],
        day_names: WeekProblem::numbered_days(),
        fixed: vec![],
    }
}

#[test]
fn which_horse_is_short_is_found_from_any_beginning_and_the_score_on_the_way_is_that_of_the_plan() {
    let week = crowded();
    let best = exactly(&week);
    assert!(best < 0, "no plan gives all six their rides");
    for seed in 0..6 {
        let mut told = vec![];
        let rides = plan(&week, Effort { seed, rounds: 12 }, &mut |progress| {
            told.push((progress.score, score(&week, progress.rides)));
            Some(Pace::FULL)
        });
        assert_eq!(score(&week, &rides), best, "seed {seed}");
        assert!(told.iter().all(|(says, is)| says == is), "seed {seed}: {told:?}");
        assert!(told.is_sorted(), "more rounds never give less");
    }
}
