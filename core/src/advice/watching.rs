//! A history that is watched together with those of the other horses of its barn.

use std::{collections::BTreeSet, sync::Arc};

use chrono::NaiveDate;

use super::{Advisor, AdvisorSnapshot, Follower, History, Posture, TrainerInput, WatchedHistory, watched::mornings};
use crate::{
    belief::{BarnFacts, BarnWeeks, Day, ModelSettings, Observer},
    curriculum::Course,
};

/// An advisor that goes with its barn, and keeps on the way what a [`WatchedHistory`] keeps: what all horses have shown and what to do
/// about each then take one pass through their days instead of two.
#[derive(Debug)]
pub struct WatchingAdvisor<'a> {
    course: &'a Arc<Course>,
    advisor: Advisor<'a>,
    settings: ModelSettings,
    days: Arc<Vec<Arc<Day>>>,
    seen: usize,
    wanted: BTreeSet<usize>,
    snapshots: Vec<(usize, Arc<AdvisorSnapshot>)>,
}

impl<'a> WatchingAdvisor<'a> {
    /// One that has seen nothing yet and is to follow these days, in their order. It keeps the mornings that [`WatchedHistory::watch`] would.
    pub fn new(
        course: &'a Arc<Course>,
        (posture, settings): (Posture, ModelSettings),
        trainer_input: TrainerInput,
        days: Arc<Vec<Arc<Day>>>,
        keep: &[NaiveDate],
    ) -> WatchingAdvisor<'a> {
        let wanted = mornings(&days, keep);
        let advisor = Advisor::with(course, posture, settings, trainer_input);
        let mut watching = WatchingAdvisor { course, advisor, settings, days, seen: 0, wanted, snapshots: vec![] };
        watching.keep_if_wanted();
        watching
    }

    fn keep_if_wanted(&mut self) {
        if self.wanted.contains(&self.seen) {
            self.snapshots.push((self.seen, Arc::new(self.advisor.clone().snapshot())));
        }
    }

    /// The history that was watched, with what the barn had shown meanwhile; none where it was not followed to its end.
    ///
    /// ```
    /// use std::sync::Arc;
    /// use cavesson_core::{
    ///     advice::{HorseRecord, Posture, TrainerInput, WatchingAdvisor, replay_barn_on_threads},
    ///     belief::{BarnWeeks, Day, ModelSettings, Work},
    ///     curriculum::{Course, Gait, Side, Sides, Step},
    ///     response::{Answer, Rep, Standard, Weight},
    /// };
    /// let course = Course::new(vec![(Step::plain("flex", Gait::Stand, Sides::Each, Standard::default()), vec![])])?;
    /// let course = Arc::new(course);
    /// let rep = Rep { answer: Answer::Gave, weight: Weight::Egg, time: None };
    /// let days = Arc::new(vec![Arc::new(Day::new("2026-03-02".parse()?, vec![Work::reps(0, Side::Left, vec![rep; 8])]))]);
    /// let settings = ModelSettings::default();
    /// let advisor = (Posture::Steady, settings);
    /// let follower = WatchingAdvisor::new(&course, advisor, TrainerInput::default(), Arc::clone(&days), &[]);
    /// let mut barn = BarnWeeks::new(&settings, 1);
    /// let mut horses = [HorseRecord { follower, days: &days[..] }];
    /// replay_barn_on_threads(2, &mut barn, &mut horses);
    /// let [horse] = horses;
    /// let watched = horse.follower.watched(Arc::new(barn), 0).unwrap();
    /// assert_eq!(watched.at_end().last_day(), Some("2026-03-02".parse()?));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn watched(self, barn: Arc<BarnWeeks>, horse: usize) -> Option<WatchedHistory> {
        let is_at_end = self.seen == self.days.len();
        let Advisor { posture, trainer_input, .. } = self.advisor;
        let (course, settings) = (Arc::clone(self.course), self.settings);
        let history = History { course, posture, settings, trainer_input, days: self.days, barn, horse };
        is_at_end.then(|| WatchedHistory::of(history, self.snapshots))
    }
}

impl Follower for WatchingAdvisor<'_> {
    fn begin_week(&mut self, facts: &BarnFacts) {
        self.advisor.begin_week(facts);
    }

    fn follow(&mut self, day: &Day) {
        self.advisor.follow(day);
        self.seen += 1;
        self.keep_if_wanted();
    }

    fn observer(&self) -> &Observer<'_> {
        self.advisor.observer()
    }
}
