use std::net::{IpAddr, SocketAddr};

use axum::{
    extract::{FromRef, FromRequestParts},
    http::{header, request::Parts},
};
use axum_extra::extract::cookie::CookieJar;
use cavesson_store::security;

use crate::{App, Problem, auth::device_hash};

/// The other end of a connection.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Peer(pub(crate) SocketAddr);

/// Where a request comes from: what the security log keeps and attempts are counted by.
#[derive(Debug, Clone)]
pub(crate) struct Origin {
    pub(crate) log: security::Origin,
    /// What is kept of the token of this device, where it has one.
    pub(crate) device_hash: Option<Vec<u8>>,
}

impl<S: Send + Sync> FromRequestParts<S> for Origin
where
    App: FromRef<S>,
{
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Problem> {
        let behind_proxy = App::from_ref(state).options.behind_proxy;
        let agent = parts.headers.get(header::USER_AGENT).and_then(|v| v.to_str().ok()).unwrap_or_default();
        let jar = CookieJar::from_headers(&parts.headers);
        Ok(Origin {
            log: security::Origin { address: address(parts, behind_proxy).map(network), device: device_name(agent) },
            device_hash: device_hash(&jar),
        })
    }
}

/// The address of whoever asks. Behind a proxy it is the last one that the proxy added; a client can write the ones before it as it
/// likes, and without a proxy all of them.
fn address(parts: &Parts, behind_proxy: bool) -> Option<IpAddr> {
    if behind_proxy {
        let forwarded = parts.headers.get_all("x-forwarded-for").iter().next_back()?.to_str().ok()?;
        return forwarded.rsplit(',').next()?.trim().parse().ok();
    }
    parts.extensions.get::<Peer>().map(|Peer(address)| address.ip().to_canonical())
}

/// An address as attempts are counted: of IPv6 the network, of which a household has 2^64 addresses.
fn network(address: IpAddr) -> String {
    match address {
        IpAddr::V4(v4) => v4.to_string(),
        IpAddr::V6(v6) => {
            let [a, b, c, d, ..] = v6.segments();
            format!("{a:x}:{b:x}:{c:x}:{d:x}::/64")
        }
    }
}

/// A device in two words, from what its browser says of itself.
fn device_name(agent: &str) -> String {
    let first = |names: &[(&'static str, &'static str)]| {
        names.iter().find(|(sign, _)| agent.contains(sign)).map(|(_, name)| *name)
    };
    let system = first(&[
        ("iPhone", "iPhone"),
        ("iPad", "iPad"),
        ("Android", "Android"),
        ("Windows", "Windows"),
        ("Mac OS", "Mac"),
        ("Linux", "Linux"),
    ]);
    let browser = first(&[("Edg", "Edge"), ("Firefox", "Firefox"), ("Chrome", "Chrome"), ("Safari", "Safari")]);
    match (system, browser) {
        (Some(system), Some(browser)) => format!("{browser} on {system}"),
        (Some(one), None) | (None, Some(one)) => one.to_owned(),
        (None, None) => "Unknown device".to_owned(),
    }
}
