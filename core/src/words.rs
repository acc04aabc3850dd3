//! Closed lists of words: enums that are written the same in the log, in the database and in the interface.

/// A word that is not one of a closed list.
///
/// ```
/// use cavesson_core::curriculum::Gait;
/// let wrong = "trott".parse::<Gait>().unwrap_err();
/// assert_eq!(wrong.to_string(), "\"trott\" is not a gait; it is one of stand, walk, jog, lope, run");
/// ```
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("\"{word}\" is not {what}; it is one of {known}")]
pub struct UnknownWord {
    /// The word that was given, its first 40 characters.
    pub word: String,
    /// What it should have been: `a gait`.
    pub what: &'static str,
    /// The words of the list.
    pub known: String,
}

impl UnknownWord {
    pub(crate) fn new(word: &str, what: &'static str, known: &[&str]) -> UnknownWord {
        UnknownWord { word: word.chars().take(40).collect(), what, known: known.join(", ") }
    }
}

/// Defines a closed list of words: `words! { "a gait"; pub enum Gait { Stand, Walk } }`.
///
/// One definition serves every side. The words are the variants in kebab case; `ALL` has them in order, `word` gives one, `FromStr`
/// reads one, and serde writes and reads the same. With the feature `schema` the list is in the OpenAPI document, with `database` it
/// is a text column.
macro_rules! words {
    ($what:literal; $(#[$meta:meta])* pub enum $name:ident { $($(#[$variant_meta:meta])* $variant:ident),+ $(,)? }) => {
        $(#[$meta])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
        #[derive(serde::Serialize, serde::Deserialize, strum::IntoStaticStr, strum::Display)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        #[cfg_attr(feature = "database", derive(sqlx::Type), sqlx(type_name = "text", rename_all = "kebab-case"))]
        #[serde(rename_all = "kebab-case")]
        #[strum(serialize_all = "kebab-case")]
        #[allow(missing_docs)]
        pub enum $name {
            $($(#[$variant_meta])* $variant),+
        }

        impl $name {
            /// All of them, in order.
            pub const ALL: [$name; [$(stringify!($variant)),+].len()] = [$($name::$variant),+];

            /// The word, as it is written in the log, the database and the interface.
            pub fn word(self) -> &'static str {
                self.into()
            }
        }

        impl std::str::FromStr for $name {
            type Err = $crate::words::UnknownWord;
            fn from_str(word: &str) -> Result<Self, Self::Err> {
                let known = || $crate::words::UnknownWord::new(word, $what, &$name::ALL.map($name::word));
                $name::ALL.into_iter().find(|it| it.word() == word).ok_or_else(known)
            }
        }
    };
}

pub(crate) use words;
