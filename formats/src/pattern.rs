//! A pattern as a file: its markers as comma-separated values, and drawn as SVG 1.1.

use std::fmt::Write;

use cavesson_core::pattern::{FOOT, Polygon, Run, SetUp};

use crate::gpx::escaped;

/// The markers of a set-up, feet and metres from the pen's corner (RFC 4180).
pub fn markers_csv(set_up: &SetUp) -> String {
    let mut out = csv::Writer::from_writer(vec![]);
    let barrels = set_up.barrels.iter().enumerate().map(|(n, b)| (format!("barrel {}", n + 1), b.at, b.turn.word()));
    let all =
        [("start".to_owned(), set_up.start, ""), ("finish".to_owned(), set_up.finish, "")].into_iter().chain(barrels);
    // Writing to memory cannot fail.
    let _ = out.write_record(["marker", "x_ft", "y_ft", "x_m", "y_m", "turn"]);
    for (name, at, turn) in all {
        let number = |value: f64| format!("{value:.3}");
        let _ =
            out.write_record([&name, &number(at.x / FOOT), &number(at.y / FOOT), &number(at.x), &number(at.y), turn]);
    }
    out.into_inner().ok().and_then(|bytes| String::from_utf8(bytes).ok()).unwrap_or_default()
}

/// A run in its pen, drawn to scale: a metre is ten units.
pub fn svg(name: &str, fences: &Polygon, set_up: &SetUp, run: &Run) -> String {
    let (least, most) = fences.bounds();
    let x = |v: f64| (v - least.x + 2.0) * 10.0;
    let y = |v: f64| (most.y - v + 2.0) * 10.0;
    let line = |points: &mut dyn Iterator<Item = (f64, f64)>| {
        points.fold(String::new(), |mut out, (px, py)| {
            let _ = write!(out, "{:.1},{:.1} ", x(px), y(py));
            out
        })
    };
    let (width, height) = ((most.x - least.x + 4.0) * 10.0, (most.y - least.y + 4.0) * 10.0);
    let mut out = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" version=\"1.1\" viewBox=\"0 0 {width:.0} {height:.0}\">\n<title>{}</title>\n",
        escaped(name)
    );
    let _ = writeln!(
        out,
        "<polygon points=\"{}\" fill=\"#F4EFE6\" stroke=\"#22201C\" stroke-width=\"3\"/>",
        line(&mut fences.0.iter().map(|p| (p.x, p.y))).trim_end()
    );
    let _ = writeln!(
        out,
        "<polyline points=\"{}\" fill=\"none\" stroke=\"#2B4C7E\" stroke-width=\"3\"/>",
        line(&mut run.thinned(FOOT).iter().map(|p| (p.at.x, p.at.y))).trim_end()
    );
    for (n, barrel) in set_up.barrels.iter().enumerate() {
        let (cx, cy, r) = (x(barrel.at.x), y(barrel.at.y), set_up.barrel_radius * 10.0);
        let _ = writeln!(out, "<circle cx=\"{cx:.1}\" cy=\"{cy:.1}\" r=\"{r:.1}\" fill=\"#B4552D\"/>");
        let _ = writeln!(out, "<text x=\"{:.1}\" y=\"{:.1}\" font-size=\"14\">{}</text>", cx + 8.0, cy - 8.0, n + 1);
    }
    out.push_str("</svg>\n");
    out
}
