using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Data;

/// <summary>A size that a proof rests on.</summary>
/// <param name="Degrees">Clock position or axis, degrees.</param>
/// <param name="Station">Depth in a drum, or how far in from the edge of a rotor; null for the usual one.</param>
/// <param name="Size">Thickness or diameter, corrected by the zero check.</param>
/// <param name="Typed">As it was typed.</param>
/// <param name="Unit">Unit of a bare figure.</param>
/// <param name="Gauge">What it was read with.</param>
public sealed record ProofSize(decimal Degrees, Length? Station, Length Size, string Typed, LengthUnit Unit, string? Gauge);

/// <summary>Where a limit was read.</summary>
/// <param name="Kind">Which limit.</param>
/// <param name="Sources">Its sources: one, or several that say the same or not.</param>
/// <param name="Agree">All of them say the same.</param>
public sealed record ProofLimit(LimitKind Kind, IReadOnlyList<LimitSource> Sources, bool Agree);

/// <summary>A reading that was withdrawn.</summary>
/// <param name="Size">What was read, and where.</param>
/// <param name="Reason">Why it was withdrawn.</param>
/// <param name="By">Who withdrew it.</param>
/// <param name="SignedBy">The lead who signed, where the reading was beyond discard.</param>
public sealed record ProofWithdrawal(ProofSize Size, string Reason, string? By, string? SignedBy);

/// <summary>What a proof says of one work surface. Lengths in millimetres.</summary>
public sealed record ProofSurface
{
    public required PartKind Kind { get; init; }
    public bool InHat { get; init; }
    public required int Passes { get; init; }
    public Length? Before { get; init; }
    public Length? Now { get; init; }
    public Length? Nominal { get; init; }
    public Length? MachineTo { get; init; }
    public bool MachineToDerived { get; init; }
    public Length? Discard { get; init; }
    public bool DiscardDerived { get; init; }
    public Length? Uncertainty { get; init; }
    public Length? Allowance { get; init; }
    public Decision? Decision { get; init; }
    public string? ConfirmedBy { get; init; }
    public DateTimeOffset? ConfirmedAt { get; init; }
    public string? ConfirmedAlthough { get; init; }
    public Length? Variation { get; init; }
    public Length? Taper { get; init; }
    public IReadOnlyList<ProofSize> SizesBefore { get; init; } = [];
    public IReadOnlyList<ProofSize> Sizes { get; init; } = [];

    /// <summary>Where its limits were read.</summary>
    public IReadOnlyList<ProofLimit> LimitSources { get; init; } = [];

    /// <summary>Steps that made a limit laxer, with who signed.</summary>
    public IReadOnlyList<LaxerLimit> LaxerLimits { get; init; } = [];

    /// <summary>Readings that were withdrawn.</summary>
    public IReadOnlyList<ProofWithdrawal> Withdrawn { get; init; } = [];

    /// <summary>Readings that count for nothing because their gauge failed on its standard afterwards.</summary>
    public IReadOnlyList<ProofSize> Suspect { get; init; } = [];

    /// <summary>What is left to discard, negative beyond; null where it was not read or has no limit.</summary>
    public Length? LeftToDiscard() => Now is { } now && Discard is { } discard ? Limits.Margin(Kind, now, discard) : null;
}

/// <summary>What is proven of a part that left: kept to the letter, under a hash.</summary>
public sealed record ProofDocument
{
    /// <summary>Version of the format.</summary>
    public const int CurrentVersion = 2;

    public int Version { get; init; } = CurrentVersion;
    public required string Shop { get; init; }
    public required string Tag { get; init; }
    public required int Visit { get; init; }
    public required Corner Corner { get; init; }
    public string? Mark { get; init; }
    public bool MarkedToStud { get; init; }
    public required int Job { get; init; }
    public required string Vehicle { get; init; }
    public int? OdometerKm { get; init; }
    public required OutcomeKind Outcome { get; init; }
    public string? Reason { get; init; }
    public ScrapCause? Cause { get; init; }
    public string? Place { get; init; }
    public string? Preservative { get; init; }
    public bool DoNotMachineAgain { get; init; }
    public required string By { get; init; }
    public string? SignedBy { get; init; }
    public required DateTimeOffset At { get; init; }
    public required IReadOnlyList<ProofSurface> Surfaces { get; init; }

    /// <summary>Links of the part's chain when it was made; the last of them is the outcome's.</summary>
    public required int Links { get; init; }

    /// <summary>Hash of that last link, hexadecimal.</summary>
    public required string ChainHead { get; init; }
}

/// <summary>Whether a proof can be relied on.</summary>
/// <param name="HashHolds">The document is, to the letter, the one that was hashed.</param>
/// <param name="ChainHolds">No fact of the part was changed, taken away or slipped in.</param>
/// <param name="Withdrawn">The part was called back.</param>
/// <param name="InDoubt">Readings that it rests on came into doubt since.</param>
public sealed record ProofState(bool HashHolds, bool ChainHolds, OutcomeWithdrawal? Withdrawn, int InDoubt)
{
    public bool Holds => HashHolds && ChainHolds && Withdrawn is null && InDoubt == 0;
}

/// <summary>Makes proofs and checks them.</summary>
public static class Proofs
{
    /// <summary>Letters of the hash that stand on paper.</summary>
    public const int CodeLength = 16;

    /// <summary>The code on paper.</summary>
    public static string CodeOf(Certificate certificate)
    {
        ArgumentNullException.ThrowIfNull(certificate);
        return certificate.Hash[..CodeLength];
    }

    /// <summary>The same in groups of four, to be read and typed.</summary>
    public static string Spelled(string code) => string.Join(' ', code.Chunk(4).Select(c => new string(c)));

    /// <summary>The document of a proof.</summary>
    public static ProofDocument Read(Certificate certificate)
    {
        ArgumentNullException.ThrowIfNull(certificate);
        return StoredJson.Read<ProofDocument>(certificate.Document);
    }

    public static string Hash(string document) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(document)));

    /// <summary>
    /// The proof of how a part left; made where there is none yet. Two screens that ask at once get the same.
    /// </summary>
    /// <param name="db">The database; the part's facts are loaded with names.</param>
    /// <param name="part">A part that has left.</param>
    /// <param name="shop">The shop.</param>
    /// <param name="now">When it is made.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Certificate> EnsureAsync(UncialDb db, Part part, Shop shop, DateTimeOffset now, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(part);
        ArgumentNullException.ThrowIfNull(shop);
        var outcome = part.Outcome ?? throw new InvalidOperationException("The part is still here.");
        if (outcome.Certificate is { } known)
            return known;
        var head = await db
            .Chain.AsNoTracking()
            .Where(l => l.PartId == part.Id && l.FactTable == "outcomes" && l.FactId == outcome.Id)
            .SingleAsync(cancel);
        var names = await db
            .Operators.AsNoTracking()
            .Where(u => u.Id == outcome.ById || u.Id == outcome.SignedById)
            .ToDictionaryAsync(u => u.Id, u => u.DisplayName, cancel);
        var document = StoredJson.Write(Of(part, outcome, shop, id => names.GetValueOrDefault(id, ""), head));
        var certificate = new Certificate
        {
            OutcomeId = outcome.Id,
            Document = document,
            Hash = Hash(document),
            At = now,
            ById = outcome.ById,
        };
        db.Certificates.Add(certificate);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException e)
            when (e.InnerException is Npgsql.PostgresException { SqlState: Npgsql.PostgresErrorCodes.UniqueViolation })
        {
            db.Entry(certificate).State = EntityState.Detached;
            certificate = await db.Certificates.Include(c => c.Prints).SingleAsync(c => c.OutcomeId == outcome.Id, cancel);
        }
        outcome.Certificate = certificate;
        return certificate;
    }

    /// <summary>A proof by the code on paper, or null. Its letters may have been typed in groups.</summary>
    public static async Task<Certificate?> FindAsync(UncialDb db, string code, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(code);
        var letters = new string([.. code.Where(c => !char.IsWhiteSpace(c) && c != '-')]).ToLowerInvariant();
        if (letters.Length is < CodeLength or > 64 || !letters.All(char.IsAsciiHexDigit))
            return null;
        var (from, to) = (letters, letters + "g");
        return await db
            .Certificates.AsNoTracking()
            .Include(c => c.Prints)
            .Where(c => string.Compare(c.Hash, from) >= 0 && string.Compare(c.Hash, to) < 0)
            .FirstOrDefaultAsync(cancel);
    }

    /// <summary>Whether a proof can be relied on now.</summary>
    public static async Task<ProofState> CheckAsync(UncialDb db, Certificate certificate, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(certificate);
        var outcome = await db.Outcomes.AsNoTracking().Include(o => o.Withdrawal).SingleAsync(o => o.Id == certificate.OutcomeId, cancel);
        var faults = await ChainCheck.OfPartAsync(db, outcome.PartId, cancel);
        var hashHolds = Hash(certificate.Document) == certificate.Hash;
        var document = Read(certificate);
        var head = await db
            .Chain.AsNoTracking()
            .Where(l => l.PartId == outcome.PartId && l.Number == document.Links)
            .Select(l => l.Hash)
            .SingleOrDefaultAsync(cancel);
        var headHolds = head is not null && Convert.ToHexStringLower(head) == document.ChainHead;
        var doubt = await db.ReadingFlags.CountAsync(
            f =>
                db.Readings.Any(r => r.Id == f.ReadingId && db.Surfaces.Any(s => s.Id == r.SurfaceId && s.PartId == outcome.PartId))
                && f.Number > outcome.Number,
            cancel
        );
        return new(hashHolds, faults.Count == 0 && headHolds, outcome.Withdrawal, doubt);
    }

    private static ProofDocument Of(Part part, Outcome outcome, Shop shop, Func<int, string> name, ChainLink head) =>
        new()
        {
            Shop = shop.Name,
            Tag = part.Tag,
            Visit = part.Visit,
            Corner = part.Corner,
            Mark = part.Mark,
            MarkedToStud = part.MarkedAt is not null,
            Job = part.Job!.Number,
            Vehicle = part.Job.Vehicle,
            OdometerKm = part.Job.OdometerKm,
            Outcome = outcome.Kind,
            Reason = outcome.Reason,
            Cause = outcome.Cause,
            Place = outcome.Place,
            Preservative = outcome.Preservative,
            DoNotMachineAgain = outcome.DoNotMachineAgain,
            By = name(outcome.ById),
            SignedBy = outcome.SignedById is { } signed ? name(signed) : null,
            At = outcome.At,
            Surfaces = [.. part.Surfaces.Select(s => Of(new SurfaceRecord(s, part, shop)))],
            Links = head.Number,
            ChainHead = Convert.ToHexStringLower(head.Hash),
        };

    /// <summary>What is to be said of a surface as it is on record now.</summary>
    public static ProofSurface Of(SurfaceRecord record)
    {
        ArgumentNullException.ThrowIfNull(record);
        var confirmed = record.Confirming.Holding;
        return new()
        {
            Kind = record.Kind,
            InHat = record.Surface.InHat,
            Passes = record.CutsDone,
            Before = record.Measuring.WorstBefore,
            Now = record.Measuring.Worst,
            Nominal = record.Receiving.Limits?.Nominal,
            MachineTo = record.Receiving.Limits?.MachineTo,
            MachineToDerived = record.Receiving.Limits?.MachineToDerived ?? false,
            Discard = record.Receiving.Limits?.Discard,
            DiscardDerived = record.Receiving.Limits?.DiscardDerived ?? false,
            Uncertainty = record.Measuring.Sizes.Count > 0 ? record.Measuring.Uncertainty : null,
            Allowance = confirmed?.Allowance,
            Decision = confirmed?.Decision,
            ConfirmedBy = confirmed?.ByName,
            ConfirmedAt = confirmed?.At,
            ConfirmedAlthough = confirmed?.Reason,
            Variation = confirmed?.Variation,
            Taper = confirmed?.Taper,
            SizesBefore = record.CutsDone > 0 ? Sizes(record, record.Measuring.SizesBefore) : [],
            Sizes = Sizes(record, record.Measuring.Sizes),
            LimitSources =
            [
                .. new[] { LimitKind.MachineTo, LimitKind.Discard }
                    .Select(k => (Kind: k, Stated: record.Receiving.Stated(k)))
                    .Where(l => l.Stated.Count > 0)
                    .Select(l => new ProofLimit(
                        l.Kind,
                        [.. l.Stated.Select(e => e.Source)],
                        !HeldLimit.Differ(l.Stated.Select(e => e.Value))
                    )),
            ],
            LaxerLimits = record.Receiving.LaxerSteps,
            Withdrawn =
            [
                .. record
                    .Measuring.WithdrawnSizes.Zip(Sizes(record, record.Measuring.WithdrawnSizes))
                    .Select(r => new ProofWithdrawal(
                        r.Second,
                        r.First.Withdrawn!.Reason,
                        r.First.Withdrawn.ByName,
                        r.First.Withdrawn.SignedByName
                    )),
            ],
            Suspect = Sizes(record, record.Measuring.Suspect.Where(r => r.Kind == ReadingKind.Size)),
        };
    }

    private static ProofSize[] Sizes(SurfaceRecord record, IEnumerable<ReadingFact> sizes) =>
        [.. sizes.Select(r => new ProofSize(r.Degrees ?? 0, r.Station, r.Value, r.Typed, r.Unit, record.GaugeOf(r)?.Name))];
}

/// <summary>A fault in a part's chain.</summary>
/// <param name="Tag">Tag of the part.</param>
/// <param name="Link">Number of the link, or 0 for a fact that is in no chain.</param>
/// <param name="What">What is wrong, in words.</param>
public sealed record ChainFault(string Tag, int Link, string What)
{
    public override string ToString() =>
        Link == 0 ? $"{Tag}: {What}" : string.Create(CultureInfo.InvariantCulture, $"{Tag}, link {Link}: {What}");
}

/// <summary>
/// Checks the chains: every fact against its link, every link against the one before, and that no fact is without one. The hashes are worked
/// out here, not by the database that is being checked.
/// </summary>
public static class ChainCheck
{
    private const int Batch = 400;

    /// <summary>The faults of one part's chain, none where it is whole.</summary>
    public static Task<IReadOnlyList<ChainFault>> OfPartAsync(UncialDb db, int part, CancellationToken cancel) =>
        OfPartsAsync(db, [part], cancel);

    /// <summary>Checks every part's chain.</summary>
    /// <returns>Parts and links that were looked at, and the faults.</returns>
    public static async Task<(int Parts, long Links, IReadOnlyList<ChainFault> Faults)> OfAllAsync(UncialDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var parts = await db.Parts.AsNoTracking().OrderBy(p => p.Id).Select(p => p.Id).ToListAsync(cancel);
        var faults = new List<ChainFault>();
        foreach (var batch in parts.Chunk(Batch))
            faults.AddRange(await OfPartsAsync(db, batch, cancel));
        // A part that was taken away with all its facts leaves the numbers of its links behind.
        var orphans = await db
            .Database.SqlQueryRaw<int>(
                "select distinct c.part_id as \"Value\" from chain c left join parts p on p.id = c.part_id where p.id is null"
            )
            .ToListAsync(cancel);
        faults.AddRange(
            orphans.Select(id => new ChainFault(
                string.Create(CultureInfo.InvariantCulture, $"part {id}"),
                1,
                "the part is gone, its chain is still there"
            ))
        );
        return (parts.Count, await db.Chain.LongCountAsync(cancel), faults);
    }

    private sealed record Link(int Part, string? Tag, int Number, string FactTable, long FactId, byte[] Hash, string? Text);

    private static async Task<IReadOnlyList<ChainFault>> OfPartsAsync(UncialDb db, int[] parts, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var (links, loose) = await ReadAsync(db, parts, cancel);
        var faults = new List<ChainFault>();
        foreach (var chain in links.GroupBy(l => l.Part))
        {
            var (before, number, tag) = (Array.Empty<byte>(), 0, chain.First().Tag ?? $"part {chain.Key}");
            foreach (var link in chain.OrderBy(l => l.Number))
            {
                if (link.Number != ++number)
                {
                    faults.Add(new(tag, number, "the link is missing"));
                    number = link.Number;
                }
                if (link.Text is null)
                    faults.Add(new(tag, link.Number, $"{link.FactTable} {link.FactId} is gone"));
                else if (
                    !SHA256
                        .HashData([.. before, .. Encoding.UTF8.GetBytes(link.FactTable + " " + link.Text)])
                        .AsSpan()
                        .SequenceEqual(link.Hash)
                )
                    faults.Add(new(tag, link.Number, $"{link.FactTable} {link.FactId} is not what was stated"));
                before = link.Hash;
            }
        }
        faults.AddRange(loose.Select(l => new ChainFault(l.Tag, 0, $"{l.Table} {l.Id} was slipped in: no link knows of it")));
        return faults;
    }

    private static async Task<(List<Link> Links, List<(string Tag, string Table, long Id)> Loose)> ReadAsync(
        UncialDb db,
        int[] parts,
        CancellationToken cancel
    )
    {
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            var connection = (Npgsql.NpgsqlConnection)db.Database.GetDbConnection();
            await using (var zone = new Npgsql.NpgsqlCommand("set timezone = 'UTC'", connection))
                await zone.ExecuteNonQueryAsync(cancel);
            var links = new List<Link>();
            await using (var command = new Npgsql.NpgsqlCommand(LinksSql, connection))
            {
                command.Parameters.AddWithValue(parts);
                await using var reader = await command.ExecuteReaderAsync(cancel);
                while (await reader.ReadAsync(cancel))
                    links.Add(
                        new(
                            reader.GetInt32(0),
                            reader.IsDBNull(1) ? null : reader.GetString(1),
                            reader.GetInt32(2),
                            reader.GetString(3),
                            reader.GetInt64(4),
                            (byte[])reader[5],
                            reader.IsDBNull(6) ? null : reader.GetString(6)
                        )
                    );
            }
            var loose = new List<(string, string, long)>();
            await using (var command = new Npgsql.NpgsqlCommand(LooseSql, connection))
            {
                command.Parameters.AddWithValue(parts);
                await using var reader = await command.ExecuteReaderAsync(cancel);
                while (await reader.ReadAsync(cancel))
                    loose.Add((reader.GetString(0), reader.GetString(1), reader.GetInt64(2)));
            }
            return (links, loose);
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
    }

    private static readonly string LinksSql = string.Join(
        " union all ",
        GuardedTables.OfParts.Select(f =>
            $"select c.part_id, p.tag, c.number, c.fact_table, c.fact_id, c.hash, fact_text(c.fact_table, to_jsonb(f)) from chain c left join parts p on p.id = c.part_id left join {f.Name} f on f.id = c.fact_id where c.part_id = any($1) and c.fact_table = '{f.Name}'"
        )
    );

    private static readonly string LooseSql = string.Join(
        " union all ",
        GuardedTables.OfParts.Select(f =>
            $"select p.tag, '{f.Name}', f.id::bigint from {f.Name} f join parts p on p.id = {f.Part} where p.id = any($1) and not exists (select 1 from chain c where c.part_id = p.id and c.fact_table = '{f.Name}' and c.fact_id = f.id)"
        )
    );
}
