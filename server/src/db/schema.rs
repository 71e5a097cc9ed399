diesel::table! {
    pictures (hash) {
        hash -> Text,
        bytes -> Binary,
    }
}

diesel::table! {
    works (id) {
        id -> Text,
        kind -> Text,
        head -> BigInt,
        version -> BigInt,
        updated_at -> Text,
        deleted_at -> Nullable<Text>,
        labels -> Text,
    }
}

diesel::table! {
    revisions (work_id, seq) {
        work_id -> Text,
        seq -> BigInt,
        document -> Text,
        sum -> Text,
        label -> Text,
        created_at -> Text,
        message -> Nullable<Text>,
    }
}

diesel::joinable!(revisions -> works (work_id));
diesel::allow_tables_to_appear_in_same_query!(works, revisions);

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
        sum -> Text,
        created_at -> Text,
    }
}

diesel::table! {
    taken (id) {
        id -> BigInt,
        printer -> Text,
        name -> Text,
        planned -> Double,
        took -> Double,
        at -> Text,
        job -> Nullable<Text>,
    }
}
