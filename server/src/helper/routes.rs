//! Which requests go to the helper, and what they are about.

/// What stays with the server: lists, the printer, what was timed. The rest of the interface goes to the helper.
pub fn stays(method: &str, path: &str) -> bool {
    let parts: Vec<&str> = path.trim_start_matches('/').split('/').collect();
    match (method, parts.as_slice()) {
        (_, ["api", "bin" | "printer" | "taken" | "recipes" | "openapi.json", ..]) => true,
        (_, ["api", "shelf", "labels" | "home"]) => true,
        ("GET", ["api", "designs" | "beds" | "samples" | "workshop"]) => true,
        ("GET", ["api", "samples", _, "picture"]) => true,
        (
            "GET",
            ["api", "designs", _, "picture" | "steps" | "snapshots" | "version"] | ["api", "beds", _, "version"],
        ) => true,
        ("DELETE", ["api", "designs" | "beds", _] | ["api", "designs", _, "snapshots", _]) => true,
        ("POST", ["api", "designs" | "beds", _, "restore" | "rescue" | "duplicate" | "try-again"]) => true,
        (_, ["api", ..]) => false,
        _ => true,
    }
}

/// The design or bed that a path is about.
pub(super) fn work_of(path: &str) -> Option<&str> {
    let path = path.split('?').next().unwrap_or(path);
    let rest = path.strip_prefix("/api/designs/").or_else(|| path.strip_prefix("/api/beds/"))?;
    rest.split('/').next().filter(|id| !id.is_empty())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lists_stay_and_geometry_goes() {
        for (method, path) in [
            ("GET", "/"),
            ("GET", "/assets/index.js"),
            ("GET", "/api/designs"),
            ("DELETE", "/api/designs/1"),
            ("GET", "/api/printer/jobs/1/shape"),
            ("POST", "/api/beds/1/restore"),
        ] {
            assert!(stays(method, path), "{method} {path}");
        }
        for (method, path) in [
            ("POST", "/api/designs"),
            ("GET", "/api/designs/1"),
            ("GET", "/api/designs/1/thumbnail.svg"),
            ("GET", "/api/beds/1"),
            ("PUT", "/api/workshop"),
            ("GET", "/api/meshes/k"),
        ] {
            assert!(!stays(method, path), "{method} {path}");
        }
        assert_eq!(work_of("/api/designs/abc/edits?x=1"), Some("abc"));
        assert_eq!(work_of("/api/beds/b"), Some("b"));
        assert_eq!(work_of("/api/designs?x"), None);
    }
}
