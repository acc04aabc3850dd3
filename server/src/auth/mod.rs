//! Who is asking: sign-in, sessions, roles, and protection against forged requests.

mod codes;
mod noted;
mod origin;
mod password;
mod signed;
mod token;

pub(crate) use codes::{accepted_step, enrolment};
pub(crate) use noted::note_about;
pub(crate) use origin::{Origin, Peer};
pub(crate) use password::{check_password, hash_password, strength, weakness};
pub(crate) use signed::{Rider, SignedIn, Trainer, begin_attempt};
pub(crate) use token::{clear_cookie, device_hash, digest, open_session, random_bytes, random_token, session_hash};
