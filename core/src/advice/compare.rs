use statrs::distribution::{Beta, ContinuousCDF};

/// How likely the share behind `a` of all is under that behind `b`, 0 to 1, under Jeffreys priors: by the midpoint rule over the
/// quantiles of the first. Each is how many of how many.
pub(super) fn less_often(a: (u32, u32), b: (u32, u32)) -> f64 {
    const NODES: u32 = 200;
    let share = |(n, all): (u32, u32)| Beta::new(0.5 + f64::from(n), 0.5 + f64::from(all - n)).ok();
    let (Some(a), Some(b)) = (share(a), share(b)) else { return 0.5 };
    let over = |i: u32| 1.0 - b.cdf(a.inverse_cdf((f64::from(i) + 0.5) / f64::from(NODES)));
    (0..NODES).map(over).sum::<f64>() / f64::from(NODES)
}
