diesel::table! {
    jobs (id) {
        id -> Text,
        name -> Text,
        plan -> Text,
        state -> Text,
        rank -> BigInt,
        took -> Double,
        waited -> Double,
        told -> Bool,
    }
}

diesel::table! {
    drawings (hash) {
        hash -> Text,
        body -> Text,
    }
}

diesel::table! {
    layers (job_id, number) {
        job_id -> Text,
        number -> Integer,
        drawing -> Text,
    }
}

diesel::joinable!(layers -> drawings (drawing));
diesel::allow_tables_to_appear_in_same_query!(layers, drawings);

diesel::table! {
    machine (id) {
        id -> Integer,
        state -> Text,
    }
}
