//! One thing that moves along the line, as it was recorded: what is wild is left out, and where it was and how fast is had at any time.

/// A value further than this from its neighbours is wild, in spreads of the noise.
const WILD: f64 = 5.0;
/// But none that is nearer than this, feet: a hard stop bends the line that the neighbours lie on.
const NEVER_WILD: f64 = 0.8;
/// Seconds on either side in which neighbours are looked for.
const NEIGHBOURS: f64 = 0.5;
/// A usual speed, feet a second, and half a usual gain, feet a second in a second.
const FAST: f64 = 12.0;
const HARD: f64 = 6.0;

/// Times and places along the line, in order of time.
#[derive(Debug, Clone)]
pub(super) struct Trace {
    pub points: Vec<(f64, f64)>,
    /// The spread of a value about where the thing was, feet.
    pub noise: f64,
}

impl Trace {
    /// Of what was recorded, without what is wild.
    pub(super) fn of(recorded: &[(f64, f64)]) -> Trace {
        let mut points = recorded.to_vec();
        let mut spread = 0.0;
        // Twice, since what is wild spoils its neighbours too.
        for _ in 0..2 {
            let off: Vec<f64> = (0..points.len()).map(|at| off_neighbours(&points, at)).collect();
            spread = 1.4826 * median(off.iter().map(|off| off.abs()).collect()).unwrap_or(0.0);
            let most = (WILD * spread).max(NEVER_WILD);
            points = points.iter().zip(&off).filter(|(_, off)| off.abs() <= most).map(|(p, _)| *p).collect();
        }
        // A value differs from the line through its neighbours by its own noise and by theirs.
        Trace { points, noise: (spread / 1.15).max(0.02) }
    }

    /// Place and speed at a time, by a parabola through what lies about it, the near counted for more.
    pub(super) fn at(&self, t: f64, reach: f64) -> Option<(f64, f64)> {
        let mut reach = reach;
        // Where values are missing, further ones have to do.
        while reach < 3.0 {
            let near = self.within(t - reach, t + reach);
            if near.len() >= 5 && near[0].0 < t + 0.02 && near[near.len() - 1].0 > t - 0.02 {
                return Some(parabola(near, t, reach, self.noise));
            }
            reach *= 1.4;
        }
        None
    }

    /// The same backwards in time.
    pub(super) fn mirrored(&self) -> Trace {
        Trace { points: self.points.iter().rev().map(|p| (-p.0, p.1)).collect(), noise: self.noise }
    }

    /// The values between two times.
    pub(super) fn within(&self, from: f64, to: f64) -> &[(f64, f64)] {
        let begin = self.points.partition_point(|p| p.0 < from);
        let end = self.points.partition_point(|p| p.0 <= to).max(begin);
        &self.points[begin..end]
    }
}

/// How far a value lies off the line through its neighbours, by repeated medians: half of them may be wild.
fn off_neighbours(all: &[(f64, f64)], at: usize) -> f64 {
    let (t, x) = all[at];
    let begin = all.partition_point(|p| p.0 < t - NEIGHBOURS);
    let end = all.partition_point(|p| p.0 <= t + NEIGHBOURS);
    let near: Vec<_> = (begin..end).filter(|n| *n != at).map(|n| all[n]).collect();
    if near.len() < 3 {
        return 0.0;
    }
    let slope_at =
        |p: (f64, f64)| median(near.iter().filter(|q| q.0 != p.0).map(|q| (q.1 - p.1) / (q.0 - p.0)).collect());
    let Some(slope) = median(near.iter().filter_map(|p| slope_at(*p)).collect()) else { return 0.0 };
    x - median(near.iter().map(|p| p.1 + slope * (t - p.0)).collect()).unwrap_or(x)
}

pub(super) fn median(mut all: Vec<f64>) -> Option<f64> {
    if all.is_empty() {
        return None;
    }
    let middle = all.len() / 2;
    all.sort_by(f64::total_cmp);
    Some(if all.len() % 2 == 1 { all[middle] } else { (all[middle - 1] + all[middle]) / 2.0 })
}

pub(super) fn square(x: f64) -> f64 {
    x * x
}

fn parabola(near: &[(f64, f64)], t: f64, reach: f64, noise: f64) -> (f64, f64) {
    let mut weights: Vec<f64> = near
        .iter()
        .map(|p| {
            let far = ((p.0 - t) / reach).abs().min(1.0);
            let left = 1.0 - far * far * far;
            left * left * left
        })
        .collect();
    let mut found = [0.0; 3];
    for _ in 0..2 {
        let rows = near.iter().zip(&weights).map(|(p, w)| {
            let s = p.0 - t;
            ([1.0, s, s * s], p.1, *w)
        });
        // Where values are missing it is held to speeds and gains that a horse has.
        let held = [([0.0, 1.0, 0.0], 0.0, square(noise / FAST)), ([0.0, 0.0, 1.0], 0.0, square(noise / HARD))];
        match least_squares(rows.chain(held)) {
            Some(next) => found = next,
            None => break,
        }
        for (p, weight) in near.iter().zip(&mut weights) {
            let s = p.0 - t;
            let off = (p.1 - found[0] - found[1] * s - found[2] * s * s).abs() / (3.0 * noise);
            *weight *= if off > 1.0 { 1.0 / (off * off) } else { 1.0 };
        }
    }
    (found[0], found[1])
}

/// The coefficients that come nearest, by the normal equations: rows of their factors, what should come out, and the weight.
pub(super) fn least_squares<const N: usize>(rows: impl Iterator<Item = ([f64; N], f64, f64)>) -> Option<[f64; N]> {
    let mut a = [[0.0; N]; N];
    let mut b = [0.0; N];
    for (row, y, weight) in rows {
        for i in 0..N {
            for j in 0..N {
                a[i][j] += weight * row[i] * row[j];
            }
            b[i] += weight * row[i] * y;
        }
    }
    // Gauss with pivots along the diagonal: the matrix is symmetric and not negative.
    for i in 0..N {
        if a[i][i] < 1e-9 {
            return None;
        }
        let (above, below) = a.split_at_mut(i + 1);
        for (row, j) in below.iter_mut().zip(i + 1..) {
            let factor = row[i] / above[i][i];
            row.iter_mut().zip(&above[i]).skip(i).for_each(|(x, y)| *x -= factor * y);
            b[j] -= factor * b[i];
        }
    }
    let mut x = [0.0; N];
    for i in (0..N).rev() {
        let rest: f64 = (i + 1..N).map(|k| a[i][k] * x[k]).sum();
        x[i] = (b[i] - rest) / a[i][i];
    }
    Some(x)
}
