//! The least of a function of four numbers.

/// How far the first corners stand from the beginning.
const STEPS: [f64; 4] = [0.15, 0.35, 0.2, 0.35];

/// Goes downhill by the simplex of Nelder and Mead (1965), with their coefficients 1, 2, 1/2 and 1/2.
pub(super) fn descend(begin: [f64; 4], cost: &impl Fn([f64; 4]) -> f64, moves: usize) -> ([f64; 4], f64) {
    let along = |a: [f64; 4], b: [f64; 4], k: f64| -> [f64; 4] { std::array::from_fn(|n| a[n] + k * (b[n] - a[n])) };
    let mut simplex: Vec<([f64; 4], f64)> = vec![(begin, cost(begin))];
    for n in 0..4 {
        let mut p = begin;
        p[n] += STEPS[n];
        simplex.push((p, cost(p)));
    }
    for _ in 0..moves {
        simplex.sort_by(|a, b| a.1.total_cmp(&b.1));
        let worst = simplex[4];
        let middle: [f64; 4] = std::array::from_fn(|n| simplex[..4].iter().map(|s| s.0[n]).sum::<f64>() / 4.0);
        let tried = |k: f64| {
            let p = along(middle, worst.0, k);
            (p, cost(p))
        };
        let back = tried(-1.0);
        simplex[4] = if back.1 < simplex[0].1 {
            let far = tried(-2.0);
            if far.1 < back.1 { far } else { back }
        } else if back.1 < simplex[3].1 {
            back
        } else {
            let near = if back.1 < worst.1 { tried(-0.5) } else { tried(0.5) };
            if near.1 < worst.1.min(back.1) {
                near
            } else {
                let best = simplex[0].0;
                for s in &mut simplex[1..] {
                    let p = along(best, s.0, 0.5);
                    *s = (p, cost(p));
                }
                continue;
            }
        };
    }
    simplex.into_iter().min_by(|a, b| a.1.total_cmp(&b.1)).unwrap_or((begin, f64::INFINITY))
}
