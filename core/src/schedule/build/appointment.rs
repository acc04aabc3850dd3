//! What else stands in a barn's week besides rides.

use crate::words::words;

words! {
    "a kind of appointment";
    /// What an appointment is.
    pub enum AppointmentKind {
        /// Feet.
        Farrier,
        /// Vet.
        Vet,
        /// Teeth.
        Dentist,
        /// An owner comes to see.
        Owner,
        /// Away to be shown.
        Show,
        /// Days or weeks off.
        LayUp,
        /// Anything else.
        Other,
    }
}

impl AppointmentKind {
    /// Whether it takes whole days, and may take several in a row.
    pub const fn takes_whole_days(self) -> bool {
        matches!(self, AppointmentKind::Show | AppointmentKind::LayUp)
    }

    /// What this is where it takes so many days in a row: what is no show and takes several is a lay-up (common practice, no
    /// published source).
    ///
    /// ```
    /// use cavesson_core::schedule::AppointmentKind;
    /// assert_eq!(AppointmentKind::Vet.over_days(5), AppointmentKind::LayUp);
    /// assert_eq!(AppointmentKind::Show.over_days(3), AppointmentKind::Show);
    /// ```
    pub const fn over_days(self, days: u16) -> AppointmentKind {
        if days > 1 && !self.takes_whole_days() { AppointmentKind::LayUp } else { self }
    }

    /// What a line of a calendar is about, by the words in it. The first list that has one of them decides; a word begins where a
    /// letter follows none.
    ///
    /// ```
    /// use cavesson_core::schedule::AppointmentKind;
    /// assert_eq!(AppointmentKind::guessed("Reset all four"), AppointmentKind::Farrier);
    /// assert_eq!(AppointmentKind::guessed("Lunch"), AppointmentKind::Other);
    /// ```
    pub fn guessed(text: &str) -> AppointmentKind {
        const WORDS: [(AppointmentKind, &[&str]); 6] = [
            (AppointmentKind::LayUp, &["lay-up", "lay up", "layup", "turned out", "turnout", "stall rest"]),
            (AppointmentKind::Dentist, &["dentist", "dental", "teeth", "float"]),
            (AppointmentKind::Farrier, &["farrier", "shoe", "shod", "trim", "reset", "hoof", "feet"]),
            (AppointmentKind::Vet, &["vet", "vaccin", "shots", "lameness", "x-ray", "radiograph", "inject"]),
            (AppointmentKind::Show, &["show", "futurity", "derby", "jackpot", "maturity"]),
            (AppointmentKind::Owner, &["owner", "visit", "buyer"]),
        ];
        let text = text.to_lowercase();
        let begins = |at: usize| !text[..at].ends_with(char::is_alphanumeric);
        let has = |word: &&str| text.match_indices(*word).any(|(at, _)| begins(at));
        WORDS.iter().find(|(_, words)| words.iter().any(&has)).map_or(AppointmentKind::Other, |(kind, _)| *kind)
    }
}
