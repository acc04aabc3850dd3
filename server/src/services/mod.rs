//! What stands between the handlers and the store: a horse's standing, the diary, the context of a week's plan, and their caches.

pub(crate) mod barn_clock;
pub(crate) mod book;
pub(crate) mod compute;
pub(crate) mod diary;
pub(crate) mod flags;
pub(crate) mod flights;
pub(crate) mod horses;
pub(crate) mod occurrences;
pub(crate) mod places;
pub(crate) mod planning;
pub(crate) mod responses;
pub(crate) mod standing;
