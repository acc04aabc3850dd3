//! How well two people who scored the same manoeuvres agree, beyond what chance would give.

/// The scores there are: seven, from -3 to 3 halves.
const SCORES: usize = 7;
/// Half of a 95 % interval, in standard errors.
const NORMAL_95: f64 = 1.959_963_984_540_054;

/// How well two agree.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Agreement {
    /// Manoeuvres that both scored.
    pub pairs: usize,
    /// How many of them got the same.
    pub same: usize,
    /// By how many halves the second scores higher, on average.
    pub higher: f64,
    /// Weighted kappa, 1 where they are of one mind, 0 where it is as by chance. None where everything was given one and the same score.
    pub kappa: Option<Kappa>,
}

/// Weighted kappa with its 95 % interval.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Kappa {
    /// As it comes out.
    pub value: f64,
    /// The interval, -1 to 1.
    pub between: [f64; 2],
}

impl Kappa {
    /// How strong that is, in plain words (Landis and Koch 1977, Biometrics 33; limits from memory).
    pub fn strength(&self) -> &'static str {
        match self.value {
            value if value > 0.8 => "almost as one",
            value if value > 0.6 => "well",
            value if value > 0.4 => "moderately",
            value if value > 0.2 => "only fairly",
            _ => "hardly better than by chance",
        }
    }
}

/// Cohen's kappa with linear weights (Cohen 1968), and its large-sample standard error (Fleiss, Cohen and Everitt 1969, Psychological
/// Bulletin 72; formulas from memory, checked against an independent library in the tests). Pairs of scores in halves, -3 to 3.
///
/// ```
/// use cavesson_core::score::agreement;
/// let told = agreement(&[(-1, -1), (0, 0), (1, 1), (2, 2)]);
/// assert_eq!((told.same, told.kappa.unwrap().value), (4, 1.0));
/// ```
pub fn agreement(pairs: &[(i8, i8)]) -> Agreement {
    let cell = |score: i8| usize::try_from(score.clamp(-3, 3) + 3).unwrap_or(0);
    let mut table = [[0.0; SCORES]; SCORES];
    for (a, b) in pairs {
        table[cell(*a)][cell(*b)] += 1.0;
    }
    let n = pairs.len() as f64;
    let higher = pairs.iter().map(|(a, b)| f64::from(b - a)).sum::<f64>() / n.max(1.0);
    let same = pairs.iter().filter(|(a, b)| a == b).count();
    Agreement { pairs: pairs.len(), same, higher, kappa: kappa(&table, n) }
}

fn kappa(table: &[[f64; SCORES]; SCORES], n: f64) -> Option<Kappa> {
    if n == 0.0 {
        return None;
    }
    let p = |i: usize, j: usize| table[i][j] / n;
    let weight = |i: usize, j: usize| 1.0 - i.abs_diff(j) as f64 / (SCORES - 1) as f64;
    let all = || (0..SCORES).flat_map(|i| (0..SCORES).map(move |j| (i, j)));
    let row: [f64; SCORES] = std::array::from_fn(|i| (0..SCORES).map(|j| p(i, j)).sum());
    let column: [f64; SCORES] = std::array::from_fn(|j| (0..SCORES).map(|i| p(i, j)).sum());
    let seen: f64 = all().map(|(i, j)| weight(i, j) * p(i, j)).sum();
    let chance: f64 = all().map(|(i, j)| weight(i, j) * row[i] * column[j]).sum();
    if chance >= 1.0 - f64::EPSILON {
        return None;
    }
    let value = (seen - chance) / (1.0 - chance);
    let of_row: [f64; SCORES] = std::array::from_fn(|i| (0..SCORES).map(|j| column[j] * weight(i, j)).sum());
    let of_column: [f64; SCORES] = std::array::from_fn(|j| (0..SCORES).map(|i| row[i] * weight(i, j)).sum());
    let spread: f64 =
        all().map(|(i, j)| p(i, j) * (weight(i, j) - (of_row[i] + of_column[j]) * (1.0 - value)).powi(2)).sum();
    let variance = (spread - (value - chance * (1.0 - value)).powi(2)) / (n * (1.0 - chance).powi(2));
    let off = NORMAL_95 * variance.max(0.0).sqrt();
    Some(Kappa { value, between: [(value - off).max(-1.0), (value + off).min(1.0)] })
}
