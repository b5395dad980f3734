-- What the application's login may do: add facts and read; no more. Run as the owner of the database, who is no superuser.

revoke create on schema public from public;
revoke execute on all functions in schema public from public;
grant usage on schema public to uncial_app;
revoke all on all tables in schema public from uncial_app;
revoke all on all sequences in schema public from uncial_app;
revoke execute on all functions in schema public from uncial_app;
grant select on all tables in schema public to uncial_app;
grant usage, select on all sequences in schema public to uncial_app;
revoke select on pins, sessions, pin_tries, pin_delays, screens from uncial_app;
grant select (id, name, enrolled_at, enrolled_by_id, address, retired_at, lathe_id) on screens to uncial_app;
grant select (id, operator_id, screen_id, address, at, "right", purpose) on pin_tries to uncial_app;
grant select on pin_delays to uncial_app;
grant select (id, operator_id, screen_id, started_at, seen_at, ended_at, ended_by) on sessions to uncial_app;
grant update (says, holder_screen_id, holder_name, holder_seen_at) on live_devices to uncial_app;
grant update (name, default_technique, time_zone, date_style, address, lock_after_minutes, turn) on shops to uncial_app;
grant execute on function begin_try, is_enrolled, sign_in, session_of, sign_out, give_signature, enrol_screen, enrol_demo_screen,
    found_shop, manage_person, retire_screen, pin_screen, pin_is_weak, device_lock, take_device, keep_devices,
    fact_text, row_text, uncial_now to uncial_app;
