//! Rebuilds when a migration changes: the migrations are compiled in.
fn main() {
    println!("cargo:rerun-if-changed=migrations");
}
