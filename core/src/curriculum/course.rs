use std::collections::{BTreeMap, BTreeSet};

use chrono::NaiveDate;

use super::{Curriculum, Gait, Measure, Sides, WorkNeeds, Zone};
use crate::response::Standard;

/// Index of a [`Step`] in its [`Course`].
pub type StepIx = usize;

/// A rung at one gait: the thing that is owned or not.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Step {
    /// Unique id: `T2`, or `S6@walk` for a rung with several gaits.
    pub id: String,
    /// The rung it belongs to.
    pub rung: String,
    /// Its name: `Poll on two reins at the walk`.
    pub name: String,
    /// The gait it is asked at.
    pub gait: Gait,
    /// Left and right, or the whole horse.
    pub sides: Sides,
    /// Whether someone rides the horse for it.
    pub ridden: bool,
    /// Steps that must be owned first.
    pub needs: Vec<StepIx>,
    /// How its answers are counted.
    pub measure: Measure,
    /// Where on the horse it shows.
    pub zone: Option<Zone>,
    /// What owning it means, as it was first.
    pub standard: Standard,
    /// What is good enough for the steps that need it, where that is less than owning it.
    pub opening: Option<Standard>,
    /// Standards that came later, with the first day of each.
    pub later: Vec<(NaiveDate, Standard)>,
    /// The letter of its ladder.
    pub ladder: char,
    /// The cues in order, in one line.
    pub ask: String,
    /// The parts of its answer: one, or two that count only when both came.
    pub answer: Vec<String>,
    /// What working it takes.
    pub work: WorkNeeds,
    /// Whether it is taught here; what is left out or passed by is there for its record alone.
    pub taught: bool,
}

impl Step {
    /// A step that is its own rung, is counted in reps and needs nothing.
    pub fn plain(id: &str, gait: Gait, sides: Sides, standard: Standard) -> Step {
        Step {
            id: id.to_owned(),
            rung: id.to_owned(),
            name: id.to_owned(),
            gait,
            sides,
            ridden: true,
            needs: vec![],
            measure: Measure::Reps,
            zone: None,
            standard,
            opening: None,
            later: vec![],
            ladder: id.chars().next().unwrap_or_default(),
            ask: String::new(),
            answer: vec![],
            work: WorkNeeds::default(),
            taught: true,
        }
    }

    /// What owning it means on a day.
    ///
    /// ```
    /// use cavesson_core::{curriculum::{Gait, Sides, Step}, response::{Share, Standard}};
    /// let on = |day: u32| chrono::NaiveDate::from_ymd_opt(2026, 3, day).unwrap();
    /// let mut step = Step::plain("S1", Gait::Stand, Sides::Each, Standard::default());
    /// let stricter = Standard { share: Share::percent(90).unwrap(), ..Standard::default() };
    /// step.later.push((on(10), stricter));
    /// assert_eq!(step.standard_on(on(9)).share, Standard::default().share, "the past is judged by what held then");
    /// assert_eq!(step.standard_on(on(10)).share, stricter.share);
    /// ```
    pub fn standard_on(&self, on: NaiveDate) -> &Standard {
        match self.standards_by(on) {
            0 => &self.standard,
            n => &self.later[n - 1].1,
        }
    }

    /// The place of that standard among all that the step has had, the first being 0.
    pub(crate) fn standards_by(&self, on: NaiveDate) -> usize {
        self.later.iter().rposition(|(from, _)| *from <= on).map_or(0, |at| at + 1)
    }

    /// All of it that what was watched before a day can follow from: not what is only told of it, nor whether it is taught.
    fn watched_before(&self, day: NaiveDate) -> Step {
        Step {
            name: String::new(),
            ask: String::new(),
            answer: vec![],
            work: WorkNeeds::default(),
            taught: true,
            later: self.later.iter().filter(|(from, _)| *from < day).copied().collect(),
            ..self.clone()
        }
    }

    /// The first day from which reps on it are watched otherwise than on another; [`NaiveDate::MIN`] where they always were.
    fn differs_from(&self, other: &Step) -> Option<NaiveDate> {
        if self.watched_before(NaiveDate::MIN) != other.watched_before(NaiveDate::MIN) {
            return Some(NaiveDate::MIN);
        }
        let same = self.later.iter().zip(&other.later).take_while(|(a, b)| a == b).count();
        self.later[same..].iter().chain(&other.later[same..]).map(|(from, _)| *from).min()
    }
}

/// Steps with their needs, free of rings, in teaching order.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Course {
    steps: Vec<Step>,
    by_id: BTreeMap<String, StepIx>,
    by_gait: BTreeMap<(String, Gait), StepIx>,
}

/// A course that nothing is asked on.
pub(crate) static EMPTY_COURSE: Course = Course { steps: vec![], by_id: BTreeMap::new(), by_gait: BTreeMap::new() };

/// Why a list of steps cannot be a course.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{step}: {problem}")]
pub struct CourseError {
    /// The step at fault.
    pub step: String,
    /// What is wrong with it.
    pub problem: String,
}

impl Course {
    /// Every rung of a curriculum at each of its gaits.
    ///
    /// ```
    /// use cavesson_core::curriculum::{Course, Curriculum};
    /// let course = Course::of(Curriculum::standard())?;
    /// let stop = course.step(course.find("T2").unwrap());
    /// assert_eq!((stop.name.as_str(), stop.ladder), ("Stop at the walk", 'T'));
    /// # Ok::<(), cavesson_core::curriculum::CourseError>(())
    /// ```
    ///
    /// # Errors
    /// A need that does not exist, or a ring of needs.
    pub fn of(curriculum: &Curriculum) -> Result<Course, CourseError> {
        let mut steps = Vec::new();
        for rung in curriculum.rungs() {
            for (n, &gait) in rung.gaits.iter().enumerate() {
                let needs = needs_at(curriculum, rung, n);
                let name =
                    if rung.gaits.len() > 1 { format!("{} {}", rung.name, gait.phrase()) } else { rung.name.clone() };
                steps.push((
                    Step {
                        id: step_id(rung, gait),
                        rung: rung.id.clone(),
                        name,
                        gait,
                        sides: rung.sides,
                        ridden: rung.ridden,
                        needs: vec![],
                        measure: rung.measure,
                        zone: rung.zone,
                        standard: rung.standard,
                        opening: rung.opening,
                        later: curriculum.later_standards(&rung.id).to_vec(),
                        ladder: rung.ladder(),
                        ask: curriculum.as_taught(rung).ask.join(", "),
                        answer: rung.answer.clone(),
                        work: curriculum.work_needs(rung).clone(),
                        taught: !curriculum.is_left_out(&rung.id) && !curriculum.is_passed(&rung.id),
                    },
                    needs,
                ));
            }
        }
        Course::new(steps)
    }

    /// Steps with the ids of their needs.
    ///
    /// # Errors
    /// An id used twice, a need that does not exist, or a ring of needs.
    pub fn new(steps: Vec<(Step, Vec<String>)>) -> Result<Course, CourseError> {
        let mut by_id = BTreeMap::new();
        for (ix, (step, _)) in steps.iter().enumerate() {
            if by_id.insert(step.id.clone(), ix).is_some() {
                return Err(CourseError { step: step.id.clone(), problem: "this id is used twice".into() });
            }
        }
        let mut out = Vec::with_capacity(steps.len());
        for (mut step, needs) in steps {
            for need in needs {
                let Some(&ix) = by_id.get(&need) else {
                    return Err(CourseError {
                        problem: format!("it needs {need}, which does not exist"),
                        step: step.id,
                    });
                };
                step.needs.push(ix);
            }
            out.push(step);
        }
        let by_gait = out.iter().enumerate().map(|(ix, s)| ((s.rung.clone(), s.gait), ix)).collect();
        let course = Course { steps: out, by_id, by_gait };
        match course.find_ring() {
            Some(ix) => Err(CourseError {
                step: course.steps[ix].id.clone(),
                problem: "it needs itself by way of its needs".into(),
            }),
            None => Ok(course),
        }
    }

    /// All steps, in teaching order.
    pub fn steps(&self) -> &[Step] {
        &self.steps
    }

    /// The step at an index that came from this course.
    pub fn step(&self, ix: StepIx) -> &Step {
        &self.steps[ix]
    }

    /// The step with this id.
    pub fn find(&self, id: &str) -> Option<StepIx> {
        self.by_id.get(id).copied()
    }

    /// The step of a rung at a gait.
    ///
    /// ```
    /// use cavesson_core::curriculum::{Curriculum, Gait};
    /// let course = Curriculum::standard().course();
    /// assert_eq!(course.find_at("S6", Gait::Walk), course.find("S6@walk"));
    /// assert_eq!(course.find_at("S6", Gait::Run), None);
    /// ```
    pub fn find_at(&self, rung: &str, gait: Gait) -> Option<StepIx> {
        self.by_gait.get(&(rung.to_owned(), gait)).copied()
    }

    /// A step and every step that it rests on, near or far.
    ///
    /// ```
    /// use cavesson_core::curriculum::Curriculum;
    /// let course = Curriculum::standard().course();
    /// let below = course.down_from(course.find("T2").unwrap());
    /// // A stop rests on the flexion that is its brake.
    /// assert!(below.contains(&course.find("S1").unwrap()));
    /// ```
    pub fn down_from(&self, ix: StepIx) -> BTreeSet<StepIx> {
        let (mut all, mut open) = (BTreeSet::from([ix]), vec![ix]);
        while let Some(step) = open.pop() {
            open.extend(self.steps[step].needs.iter().filter(|&&n| all.insert(n)));
        }
        all
    }

    /// The first day from which a horse is watched otherwise on this course than on another: `None` where it never is, and
    /// [`NaiveDate::MIN`] where it is from its first day on. A standard holds from its day, so what was seen before stays as it is.
    ///
    /// ```
    /// use cavesson_core::{curriculum::{Change, Course, Curriculum, DatedChange}, response::{Share, Standard}};
    /// let shipped = Curriculum::standard();
    /// let on = "2026-03-02".parse().unwrap();
    /// let stricter = Standard { share: Share::percent(90).unwrap(), ..shipped.rung("T2").unwrap().standard };
    /// let standard = Change::Standard { rung: "T2".into(), standard: stricter };
    /// let stricter = shipped.changed(&[DatedChange { on, change: standard }]).unwrap();
    /// assert_eq!(shipped.course().differs_from(&stricter.course()), Some(on));
    /// let left_out = DatedChange { on, change: Change::LeaveOut { rung: "O3".into() } };
    /// let less = shipped.changed(&[left_out]).unwrap();
    /// assert_eq!(shipped.course().differs_from(&less.course()), None, "what a horse did on it stays");
    /// ```
    pub fn differs_from(&self, other: &Course) -> Option<NaiveDate> {
        if self.steps.len() != other.steps.len() {
            return Some(NaiveDate::MIN);
        }
        self.steps.iter().zip(&other.steps).filter_map(|(a, b)| a.differs_from(b)).min()
    }

    /// The steps, with all of them that what was watched before a day can follow from: courses of which these are the same come to the same
    /// until then.
    pub fn watched_before(&self, day: NaiveDate) -> Vec<Step> {
        self.steps.iter().map(|step| step.watched_before(day)).collect()
    }

    /// A step that is reached from itself through needs, if there is one (Kahn's algorithm: what cannot be ordered).
    fn find_ring(&self) -> Option<StepIx> {
        let mut open: Vec<usize> = self.steps.iter().map(|s| s.needs.len()).collect();
        let mut free: Vec<StepIx> = (0..open.len()).filter(|&i| open[i] == 0).collect();
        while let Some(done) = free.pop() {
            for (ix, step) in self.steps.iter().enumerate() {
                let times = step.needs.iter().filter(|&&n| n == done).count();
                if times > 0 {
                    open[ix] -= times;
                    if open[ix] == 0 {
                        free.push(ix);
                    }
                }
            }
        }
        open.iter().position(|&n| n > 0)
    }
}

/// What a rung needs at its `n`th gait, by step: its needs at that gait, and the gait below.
fn needs_at(curriculum: &Curriculum, rung: &super::Rung, n: usize) -> Vec<String> {
    let gait = rung.gaits[n];
    let mut needs: Vec<String> = curriculum
        .needs_of(rung)
        .filter(|need| need.holds_at(gait))
        // A need that does not exist is told when the course is made.
        .map(|need| match curriculum.rung(&need.rung).map(|r| (r, need.gait_for(&r.gaits, gait))) {
            Some((needed, Some(at))) if needed.gaits.contains(&at) => step_id(needed, at),
            _ => String::from(need.clone()),
        })
        .collect();
    needs.extend(n.checked_sub(1).map(|below| step_id(rung, rung.gaits[below])));
    let mut seen = BTreeSet::new();
    needs.retain(|need| seen.insert(need.clone()));
    needs
}

fn step_id(rung: &super::Rung, gait: Gait) -> String {
    if rung.gaits.len() > 1 { format!("{}@{}", rung.id, gait.word()) } else { rung.id.clone() }
}
