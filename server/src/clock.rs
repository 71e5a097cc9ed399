use time::OffsetDateTime;

/// A time of UTC as RFC 3339 and xs:dateTime have it, to the second and without its zone.
fn to_the_second(t: OffsetDateTime) -> String {
    let (date, month) = (t.date(), u8::from(t.month()));
    let (hour, minute, second) = t.to_hms();
    format!("{:04}-{month:02}-{:02}T{hour:02}:{minute:02}:{second:02}", date.year(), date.day())
}

/// Now, to the millisecond: what is saved one after the other stays in order, by these texts too.
pub(crate) fn now() -> String {
    let now = OffsetDateTime::now_utc();
    format!("{}.{:03}Z", to_the_second(now), now.millisecond())
}

/// So many seconds after the beginning of 1970; `None` outside the years that can be written.
pub fn time_of(seconds: i64) -> Option<String> {
    let time = OffsetDateTime::from_unix_timestamp(seconds).ok()?;
    (0..=9999).contains(&time.year()).then(|| to_the_second(time) + "Z")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn times_are_those_of_the_calendar() {
        // RFC 3339, section 5.8, names the first; 2^31 - 1 s is where 32 bits end (2038-01-19).
        assert_eq!(time_of(482_196_050).as_deref(), Some("1985-04-12T23:20:50Z"));
        assert_eq!(time_of(i64::from(i32::MAX)).as_deref(), Some("2038-01-19T03:14:07Z"));
        assert_eq!((time_of(0).as_deref(), time_of(i64::MAX)), (Some("1970-01-01T00:00:00Z"), None));
    }
}
