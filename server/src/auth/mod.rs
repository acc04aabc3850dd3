//! Who is asking: sign-in, sessions, roles, and protection against forged requests.

mod password;
mod signed;
mod token;

pub(crate) use password::{check_password, hash_password};
pub(crate) use signed::{Rider, SignedIn, Trainer, may_try};
pub(crate) use token::{NewSession, clear_cookie, digest, random_token, session_hash};
