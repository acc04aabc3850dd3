//! Tracks as GPX 1.1.

use std::fmt::Write;

use cavesson_core::pattern::{Point, TrackPoint};
use time::{Duration, OffsetDateTime, format_description::well_known::Rfc3339};

/// Why a file tells no track.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
#[allow(missing_docs)]
pub enum GpxError {
    #[error("it cannot be read as GPX: {0}")]
    Unreadable(String),
    #[error("it has no track with points")]
    NoTrack,
    #[error("point {} has no time: a track without times tells no speed", .0 + 1)]
    NoTime(usize),
    #[error("it has over {MOST} points")]
    TooMany,
}

/// A file has at most so many points.
pub const MOST: usize = 100_000;
/// Radius of a ball with the earth's area, metres (IUGG mean radius R1).
const EARTH: f64 = 6_371_008.8;

/// A track that was read.
#[derive(Debug, Clone, PartialEq)]
pub struct Recorded {
    /// Metres east and north of the first point, and seconds from it.
    pub points: Vec<TrackPoint>,
    /// The first point: degrees north and east.
    pub origin: (f64, f64),
    /// Its moment: seconds since 1970.
    pub began: f64,
}

impl Recorded {
    /// Degrees north and east of a place that is given in metres from the first point.
    pub fn on_earth(&self, at: Point) -> (f64, f64) {
        on_earth(self.origin, at)
    }
}

/// Degrees north and east of what lies so many metres east and north of an origin.
fn on_earth(origin: (f64, f64), at: Point) -> (f64, f64) {
    let lat = origin.0 + (at.y / EARTH).to_degrees();
    let lon = origin.1 + (at.x / EARTH / origin.0.to_radians().cos()).to_degrees();
    (lat, (lon + 540.0).rem_euclid(360.0) - 180.0)
}

/// Reads the points of all segments of all tracks: metres east and north of the first, and seconds from it. On the scale of a pen the
/// ground is flat: up to 60 degrees of latitude the error over 300 m is under 5 cm, far under a watch's own.
///
/// # Errors
/// [`GpxError`]: not GPX, no points, no times, or too many.
pub fn read(text: &str) -> Result<Recorded, GpxError> {
    let told = |e: gpx::errors::GpxError| GpxError::Unreadable(e.to_string().chars().take(200).collect());
    let file = gpx::read(text.as_bytes()).map_err(told)?;
    let points: Vec<&gpx::Waypoint> =
        file.tracks.iter().flat_map(|t| &t.segments).flat_map(|s| &s.points).take(MOST + 1).collect();
    if points.len() > MOST {
        return Err(GpxError::TooMany);
    }
    let first = points.first().ok_or(GpxError::NoTrack)?.point();
    let time = |n: usize| points[n].time.map(OffsetDateTime::from).ok_or(GpxError::NoTime(n));
    let begin = time(0)?;
    let read = (points.iter().enumerate()).map(|(n, p)| {
        // The shorter way round, where a track crosses the 180th meridian.
        let east = (p.point().x() - first.x() + 540.0).rem_euclid(360.0) - 180.0;
        let x = east.to_radians() * first.y().to_radians().cos() * EARTH;
        let y = (p.point().y() - first.y()).to_radians() * EARTH;
        Ok(TrackPoint { at: Point::new(x, y), t: (time(n)? - begin).as_seconds_f64() })
    });
    let origin = (first.y(), first.x());
    Ok(Recorded { points: read.collect::<Result<_, _>>()?, origin, began: begin.unix_timestamp_nanos() as f64 / 1e9 })
}

/// Writes a track from an origin, degrees north and east, and a moment, seconds since 1970.
pub fn write(name: &str, points: &[TrackPoint], origin: (f64, f64), began: f64) -> String {
    let mut out = String::from("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
    out.push_str("<gpx version=\"1.1\" creator=\"Cavesson\" xmlns=\"http://www.topografix.com/GPX/1/1\"><trk><name>");
    out.push_str(&escaped(name));
    out.push_str("</name><trkseg>\n");
    for p in points {
        let (lat, lon) = on_earth(origin, p.at);
        let since_1970 = Duration::milliseconds(((began + p.t) * 1000.0).round() as i64);
        let time = (OffsetDateTime::UNIX_EPOCH.checked_add(since_1970))
            .and_then(|moment| moment.format(&Rfc3339).ok())
            .unwrap_or_default();
        let _ = writeln!(out, "<trkpt lat=\"{lat:.8}\" lon=\"{lon:.8}\"><time>{time}</time></trkpt>");
    }
    out.push_str("</trkseg></trk></gpx>\n");
    out
}

/// Text that stands in an element or an attribute.
pub(crate) fn escaped(text: &str) -> String {
    text.replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;").replace('"', "&quot;")
}
