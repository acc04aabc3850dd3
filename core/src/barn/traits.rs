//! What a horse is like for good, apart from the signs of a day.

use crate::words::words;

words! {
    "a trait";
    /// Something that lasts about a horse, written down by those who ride it.
    pub enum Trait {
        QuickLearner,
        SlowLearner,
        BehindTheBit,
        PopsUpBehind,
        Squirms,
        LooksAbout,
        NeedsPushing,
        RunsFree,
        OneSided,
        LegSensitive,
        IdleMouth,
        BusyMouth,
        /// A mare that is another horse in season.
        InSeason,
    }
}

impl Trait {
    /// What it changes about a ride, in few words (common practice, no published source).
    ///
    /// ```
    /// use cavesson_core::barn::Trait;
    /// assert_eq!(Trait::Squirms.advice(), "Squirms: wait until it stands still before the next ask");
    /// ```
    pub const fn advice(self) -> &'static str {
        match self {
            Trait::QuickLearner => "Learns quickly: three quarters of the reps, and quit on the first good ones",
            Trait::SlowLearner => "Learns slowly: the same few reps on more days, not more on one day",
            Trait::BehindTheBit => "Hides behind the bit: send it forward before taking hold again",
            Trait::PopsUpBehind => "Pops up behind: move the hips on both sides before the lope",
            Trait::Squirms => "Squirms: wait until it stands still before the next ask",
            Trait::LooksAbout => "Looks about: loosen longer away from the pen",
            Trait::NeedsPushing => "Needs pushing: forward off a light leg before the subject",
            Trait::RunsFree => "Runs free: walk and stand between the asks",
            Trait::OneSided => "One-sided: begin and end on the stiff side",
            Trait::LegSensitive => "Sensitive to the leg: less leg, and no spurs",
            Trait::IdleMouth => "Idle mouth: it may take half as long again to answer the rein",
            Trait::BusyMouth => "Busy mouth: release when the mouth is still, not before",
            Trait::InSeason => "Changes in season: on those days only what it owns",
        }
    }

    /// How much of the usual reps it is asked for, in per cent (common practice, no published source).
    pub const fn reps_percent(self) -> u32 {
        match self {
            Trait::QuickLearner => 75,
            _ => 100,
        }
    }

    /// How long a horse with these may take to answer the rein, in per cent of the standard.
    ///
    /// ```
    /// use cavesson_core::barn::Trait;
    /// assert_eq!(Trait::rein_time(&[Trait::Squirms, Trait::IdleMouth]), 150);
    /// assert_eq!(Trait::rein_time(&[]), 100);
    /// ```
    pub fn rein_time(traits: &[Trait]) -> u32 {
        traits.iter().map(|t| t.seconds_percent()).max().unwrap_or(100)
    }

    /// How long it may take to answer the rein, in per cent of the standard (common practice, no published source).
    const fn seconds_percent(self) -> u32 {
        match self {
            Trait::IdleMouth => 150,
            _ => 100,
        }
    }
}
