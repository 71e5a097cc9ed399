/// Solves `a x = b` by elimination with pivoting; `None` where the equations do not decide. `a` is square, by rows.
pub(crate) fn solve(mut a: Vec<Vec<f64>>, mut b: Vec<f64>) -> Option<Vec<f64>> {
    let n = b.len();
    let largest = a.iter().flatten().fold(0.0f64, |m, v| m.max(v.abs()));
    for k in 0..n {
        let pivot = (k..n).max_by(|&i, &j| a[i][k].abs().total_cmp(&a[j][k].abs()))?;
        let size = a[pivot][k].abs();
        if size.is_nan() || size <= largest * 1e-13 {
            return None;
        }
        a.swap(k, pivot);
        b.swap(k, pivot);
        for i in k + 1..n {
            let f = a[i][k] / a[k][k];
            let (top, rest) = a.split_at_mut(i);
            rest[0][k..].iter_mut().zip(&top[k][k..]).for_each(|(v, u)| *v -= f * u);
            b[i] -= f * b[k];
        }
    }
    for k in (0..n).rev() {
        let known: f64 = (k + 1..n).map(|j| a[k][j] * b[j]).sum();
        b[k] = (b[k] - known) / a[k][k];
    }
    Some(b)
}
