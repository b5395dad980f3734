using Microsoft.EntityFrameworkCore;
using Uncial.Data;

namespace Uncial.Bench.Search;

/// <summary>
/// Fills an empty database with a shop of many years, by the database itself: its own rules rest meanwhile, and no chain is made.
/// </summary>
internal static class BigShop
{
    private const int ReadingsOfPart = 20;

    public static async Task FillAsync(UncialDb db, int parts, TextWriter says)
    {
        await db.Database.MigrateAsync();
        if (await db.Parts.AnyAsync())
        {
            await says.WriteLineAsync($"{await db.Parts.CountAsync()} parts are there already.");
            return;
        }
        db.Shops.Add(Shop.New("Bench"));
        for (var i = 1; i <= 12; i++)
            db.Operators.Add(new() { UserName = $"hand{i}", DisplayName = $"Hand {i}" });
        await db.SaveChangesAsync();
        await says.WriteLineAsync($"Making {parts} parts with {parts * ReadingsOfPart} readings ...");
        await db.Database.OpenConnectionAsync();
        // Ten years; two to three parts a job; vehicles and customers as a workshop has them: few models, many people.
        foreach (
            var sql in new[]
            {
                "set session_replication_role = replica",
                $"""
                    insert into jobs (number, vehicle, customer, odometer_km, received_at, received_by_id)
                    select 1000 + j,
                        (array['Brindle L3 van','Pilchard city car','Ottershaw 4x4','School minibus Gannet 16','Skerry 7.5 tipper',
                            'Fulmar 90 saloon','Tern 3 estate','Dunlin pick-up','Curlew camper','Petrel trailer'])[1 + (j * 7) % 10]
                            || ' ' || (j % 900),
                        (array['Harbour','Bakery','Lund','Aune','Coastguard','School','Museum','Depot','Post','Ferry'])[1 + (j * 3) % 10]
                            || ' ' || (j * 13) % 3000,
                        (j * 977) % 300000,
                        now() - interval '10 years' + j * (interval '10 years' / {parts
                        * 2
                        / 5}), 1 + j % 12
                    from generate_series(1, {parts * 2 / 5}) j
                    """,
                $"""
                    insert into parts (job_id, tag, corner, visit)
                    select (select min(id) from jobs) + (p - 1) * 2 / 5,
                        (select string_agg(substr('23456789ABCDEFGHJKMNPQRSTVWXYZ',
                        1 + (p * 104729::bigint / power(30, d)::bigint % 30)::int, 1), '') from generate_series(0, 4) d) || (p / 24300000),
                        (array['FrontLeft','FrontRight','RearLeft','RearRight'])[1 + p % 4], 1
                    from generate_series(1, {parts}) p
                    """,
                "insert into surfaces (part_id, kind, in_hat, diameter_mm, band_mm, places, depths_mm, turn) select id, case when "
                    + "id % 4 = 0 then 'Drum' else 'Rotor' end, false, 300, 50, 8, '{}', 20 from parts",
                $"""
                    insert into readings (surface_id, kind, degrees, value_mm, typed, unit, resolution_mm, uncertainty_mm, insisted, cuts,
                        correction_mm, at, by_id)
                    select s.id, case when r <= 16 then 'Size' else 'RunoutOuter' end, case when r <= 16 then (r % 8) * 45 end,
                        24 + (s.id * 7 + r * 3) % 100 * 0.01, '24', 'Millimetre', 0.001, 0.007, false,
                        case when r between 9 and 16 then 1 else 0 end, 0,
                        j.received_at + r * interval '1 minute', 1 + (s.id + r) % 12
                    from surfaces s join parts p on p.id = s.part_id join jobs j on j.id = p.job_id
                        cross join generate_series(1, {ReadingsOfPart}) r
                    """,
                """
                    insert into plans (surface_id, version, technique, document, at, by_id)
                    select s.id, 1, 'working',
                        '{"option":{"passes":[{"depth":[0.14,0.10]}]},"request":{"sides":[{"need":0.12},{"need":0.09}]}}', now(), 1
                    from surfaces s
                    """,
                "insert into passes (surface_id, plan_id, index, cut, dial_borne_out, dark_outer, dark_inner, metres, grams, next, "
                    + "notes, at, by_id) select p.surface_id, p.id, 0, 1, true, 0, 0, 300, 90, 'Finished', '[]', p.at, 1 + p.surface_id % "
                    + "12 from plans p",
                "insert into outcomes (part_id, kind, do_not_machine_again, at, by_id) select p.id, (array['Released','Released',"
                    + "'Released','Released','Released','Released','Released','Shelved','Scrapped','Refused'])[1 + p.id % 10], false, "
                    + "j.received_at + interval '5 hours', 1 + p.id % 12 from parts p join jobs j on j.id = p.job_id where p.id % 400 <> "
                    + "0",
            }
        )
            await ExecuteAsync(db, sql);
        db.Database.SetCommandTimeout(TimeSpan.FromMinutes(30));
        await Logbook.MakeAnewAsync(db, default);
        await ExecuteAsync(db, "set session_replication_role = default");
        await ExecuteAsync(db, "vacuum analyze");
        await db.Database.CloseConnectionAsync();
    }

    private static async Task ExecuteAsync(UncialDb db, string sql)
    {
        await using var command = db.Database.GetDbConnection().CreateCommand();
        (command.CommandText, command.CommandTimeout) = (sql, 1800);
        await command.ExecuteNonQueryAsync();
    }
}
