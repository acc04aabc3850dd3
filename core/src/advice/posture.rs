use crate::words::words;

words! {
    "a posture";
    /// How sure the trainer wants to be before a horse moves on. The trade disagrees, so the tool carries each view.
    #[derive(Default)]
    pub enum Posture {
        /// Never sets a date; nine times in ten sure.
        Patient,
        /// Seven times in ten sure.
        #[default]
        Steady,
        /// Too much care does harm as well; three times in five sure.
        GoAhead,
    }
}

impl Posture {
    /// The probability of being ready at which a side may advance.
    ///
    /// ```
    /// use cavesson_core::advice::Posture;
    /// assert!(Posture::Patient.sure() > Posture::Steady.sure() && Posture::Steady.sure() > Posture::GoAhead.sure());
    /// ```
    pub const fn sure(self) -> f64 {
        match self {
            Posture::Patient => 0.90,
            Posture::Steady => 0.72,
            Posture::GoAhead => 0.60,
        }
    }

    /// The probability of being more than 0.05 under the standard from which on what was owned is called back.
    ///
    /// This is Shiryaev's rule for a change that may have come at any time: of the alarms that it raises, at most one less this
    /// share are false, where the model holds (Shiryaev 1963; memory).
    ///
    /// ```
    /// use cavesson_core::advice::Posture;
    /// assert!(Posture::ALL.into_iter().all(|p| (0.5..0.9).contains(&p.sure_of_loss())));
    /// ```
    pub const fn sure_of_loss(self) -> f64 {
        match self {
            Posture::Patient => 0.52,
            Posture::Steady => 0.66,
            Posture::GoAhead => 0.72,
        }
    }

    /// Days running that a horse is ridden before it is left alone (common practice, no published source).
    pub const fn days_running(self) -> u32 {
        match self {
            Posture::Patient => 4,
            Posture::Steady => 5,
            Posture::GoAhead => 6,
        }
    }

    /// Days after which what is owned is due for a few reps (common practice, no published source).
    pub const fn keep_days(self) -> u32 {
        match self {
            Posture::Patient => 14,
            Posture::Steady => 21,
            Posture::GoAhead => 28,
        }
    }
}
