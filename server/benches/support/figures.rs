//! What was measured, in milliseconds.

use std::{future::Future, time::Instant};

/// Times of one kind of request.
#[derive(Debug, Default)]
pub(crate) struct Times(Vec<f64>);

impl Times {
    /// Times something.
    pub(crate) async fn time<T, E>(&mut self, work: impl Future<Output = Result<T, E>>) -> Result<T, E> {
        let from = Instant::now();
        let done = work.await;
        self.0.push(from.elapsed().as_secs_f64() * 1000.0);
        done
    }

    pub(crate) fn extend(&mut self, other: Times) {
        self.0.extend(other.0);
    }

    pub(crate) fn len(&self) -> usize {
        self.0.len()
    }

    /// The time that a share of them took no longer than.
    pub(crate) fn at(&self, share: f64) -> f64 {
        let mut sorted = self.0.clone();
        sorted.sort_by(f64::total_cmp);
        let at = (share * sorted.len() as f64).ceil() as usize;
        sorted.get(at.saturating_sub(1)).copied().unwrap_or(f64::NAN)
    }

    pub(crate) fn median(&self) -> f64 {
        self.at(0.5)
    }

    /// In one line.
    pub(crate) fn told(&self) -> String {
        let [median, p95, p99, worst] = [0.5, 0.95, 0.99, 1.0].map(|share| self.at(share));
        format!("median {median:.1} ms, p95 {p95:.1}, p99 {p99:.1}, slowest {worst:.1}")
    }
}

/// The power by which times grow with sizes: the slope of a straight line through the logarithms, by least squares.
pub(crate) fn growth(points: &[(f64, f64)]) -> f64 {
    let n = points.len() as f64;
    let logs: Vec<(f64, f64)> = points.iter().map(|(x, y)| (x.ln(), y.ln())).collect();
    let (mx, my) = (logs.iter().map(|l| l.0).sum::<f64>() / n, logs.iter().map(|l| l.1).sum::<f64>() / n);
    let over = logs.iter().map(|(x, y)| (x - mx) * (y - my)).sum::<f64>();
    over / logs.iter().map(|(x, _)| (x - mx).powi(2)).sum::<f64>()
}
