//! One-time codes by time (RFC 6238), from an app on the trainer's phone.

use totp_rs::{Builder, Secret, Totp};

use crate::Problem;

/// The codes of a key: six digits, thirty seconds each; one step early or late is taken.
fn codes(key: &[u8], account: &str) -> Result<Totp, Problem> {
    let key: [u8; 20] = key.try_into().map_err(|_| Problem::broken())?;
    let account: String = account.chars().filter(|c| *c != ':').collect();
    Builder::new()
        .with_secret(Secret::new_stack(key))
        .with_account_name(account)
        .with_issuer(Some("Cavesson"))
        .build()
        .map_err(|_| Problem::broken())
}

/// The time step of a code, if it is one of this key around `time`, in seconds since 1970.
///
/// The step is to be used up: a code holds once.
pub(crate) fn accepted_step(key: &[u8], code: &str, time: i64) -> Option<i64> {
    let digits: String = code.chars().filter(|c| !c.is_whitespace()).collect();
    let step = codes(key, "code").ok()?.check(&digits, u64::try_from(time).ok()?)?;
    i64::try_from(step).ok()
}

/// A key to type into an app, and its address (the `otpauth` scheme) for a picture to scan.
pub(crate) fn enrolment(key: &[u8], account: &str) -> Result<(String, String), Problem> {
    let codes = codes(key, account)?;
    Ok((codes.secret().to_base32(), codes.to_url().map_err(|_| Problem::broken())?))
}
