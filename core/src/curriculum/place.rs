use crate::words::words;

words! {
    "a place";
    /// Where a horse is ridden, from the smallest outward. A rung owned in one place starts lower in the next.
    pub enum Place {
        /// Round or indoor pen.
        RoundPen,
        /// The arena.
        Arena,
        /// The range outside.
        Outside,
        /// The trail, and away from home.
        Trail,
    }
}

impl Place {
    /// In a sentence: `in the round pen`.
    pub const fn phrase(self) -> &'static str {
        match self {
            Place::RoundPen => "in the round pen",
            Place::Arena => "in the arena",
            Place::Outside => "outside",
            Place::Trail => "on the trail",
        }
    }
}

impl Place {
    /// Whether it is out of the pen: a horse wants such days as well.
    ///
    /// ```
    /// use cavesson_core::curriculum::Place;
    /// assert!(Place::Trail.is_out_of_the_pen() && !Place::Arena.is_out_of_the_pen());
    /// ```
    pub fn is_out_of_the_pen(self) -> bool {
        self >= Place::Outside
    }

    /// Whether the horse is away from home.
    pub fn is_away(self) -> bool {
        self == Place::Trail
    }

    /// As a next step: `take it outside`.
    pub const fn next(self) -> &'static str {
        match self {
            Place::RoundPen => "take it to the round pen",
            Place::Arena => "take it to the arena",
            Place::Outside => "take it outside",
            Place::Trail => "take it on the trail",
        }
    }
}

words! {
    "anyone's hands";
    /// In whose hands a horse is, from the most to the least experienced.
    pub enum Hands {
        /// The trainer's.
        Trainer,
        /// An experienced rider's.
        Assistant,
        /// The owner's.
        Owner,
    }
}

impl Hands {
    /// As a next step: `put the owner up`.
    pub const fn next(self) -> &'static str {
        match self {
            Hands::Trainer => "put the trainer up",
            Hands::Assistant => "put an assistant up",
            Hands::Owner => "put the owner up",
        }
    }
}
