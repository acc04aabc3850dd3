//! What else stands in a barn's week besides rides.

/// What an appointment is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Appointment {
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

impl Appointment {
    /// All of them.
    pub const ALL: [Appointment; 7] = [
        Appointment::Farrier,
        Appointment::Vet,
        Appointment::Dentist,
        Appointment::Owner,
        Appointment::Show,
        Appointment::LayUp,
        Appointment::Other,
    ];

    /// The word: `lay-up`.
    pub const fn word(self) -> &'static str {
        match self {
            Appointment::Farrier => "farrier",
            Appointment::Vet => "vet",
            Appointment::Dentist => "dentist",
            Appointment::Owner => "owner",
            Appointment::Show => "show",
            Appointment::LayUp => "lay-up",
            Appointment::Other => "other",
        }
    }

    /// Whether it takes whole days, and may take several in a row.
    pub const fn takes_whole_days(self) -> bool {
        matches!(self, Appointment::Show | Appointment::LayUp)
    }

    /// What this is where it takes so many days in a row: what is no show and takes several is a lay-up (common practice, no
    /// published source).
    pub const fn over_days(self, days: u16) -> Appointment {
        if days > 1 && !self.takes_whole_days() { Appointment::LayUp } else { self }
    }

    /// What a line of a calendar is about, by the words in it. The first list that has one of them decides; a word begins where a
    /// letter follows none.
    pub fn guessed(text: &str) -> Appointment {
        const WORDS: [(Appointment, &[&str]); 6] = [
            (Appointment::LayUp, &["lay-up", "lay up", "layup", "turned out", "turnout", "stall rest"]),
            (Appointment::Dentist, &["dentist", "dental", "teeth", "float"]),
            (Appointment::Farrier, &["farrier", "shoe", "shod", "trim", "reset", "hoof", "feet"]),
            (Appointment::Vet, &["vet", "vaccin", "shots", "lameness", "x-ray", "radiograph", "inject"]),
            (Appointment::Show, &["show", "futurity", "derby", "jackpot", "maturity"]),
            (Appointment::Owner, &["owner", "visit", "buyer"]),
        ];
        let text = text.to_lowercase();
        let begins = |at: usize| !text[..at].ends_with(char::is_alphanumeric);
        let has = |word: &&str| text.match_indices(*word).any(|(at, _)| begins(at));
        WORDS.iter().find(|(_, words)| words.iter().any(&has)).map_or(Appointment::Other, |(kind, _)| *kind)
    }
}

impl std::str::FromStr for Appointment {
    type Err = String;
    fn from_str(word: &str) -> Result<Self, Self::Err> {
        let known = Appointment::ALL.into_iter().find(|a| a.word() == word);
        known.ok_or_else(|| format!("\"{word}\" is not a kind of appointment"))
    }
}
