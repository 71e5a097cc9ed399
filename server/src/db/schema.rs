diesel::table! {
    pictures (hash) {
        hash -> Text,
        bytes -> Binary,
    }
}

diesel::table! {
    designs (id) {
        id -> Text,
        head -> BigInt,
        version -> BigInt,
        updated_at -> Text,
        deleted_at -> Nullable<Text>,
    }
}

diesel::table! {
    revisions (design_id, seq) {
        design_id -> Text,
        seq -> BigInt,
        document -> Text,
        label -> Text,
        created_at -> Text,
    }
}

diesel::joinable!(revisions -> designs (design_id));
diesel::allow_tables_to_appear_in_same_query!(designs, revisions);

diesel::table! {
    workshop (id) {
        id -> Integer,
        version -> BigInt,
        settings -> Text,
    }
}

diesel::table! {
    snapshots (id) {
        id -> Text,
        design_id -> Text,
        name -> Text,
        document -> Text,
        created_at -> Text,
    }
}
