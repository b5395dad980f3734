using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Parts;

namespace Uncial.Data.Certificates;

/// <summary>Makes certificates and checks them.</summary>
public static class CertificateStore
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

    /// <summary>The document of a certificate.</summary>
    public static CertificateDocument Read(Certificate certificate)
    {
        ArgumentNullException.ThrowIfNull(certificate);
        return StoredJson.Read<CertificateDocument>(certificate.Document);
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

    /// <summary>Whether a certificate can be relied on now.</summary>
    public static async Task<CertificateState> CheckAsync(UncialDb db, Certificate certificate, CancellationToken cancel)
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

    private static CertificateDocument Of(Part part, Outcome outcome, Shop shop, Func<int, string> name, ChainLink head) =>
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
    public static CertificateSurface Of(SurfaceRecord record)
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
                    .Select(l => new CertificateLimit(
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
                    .Select(r => new CertificateWithdrawal(
                        r.Second,
                        r.First.Withdrawn!.Reason,
                        r.First.Withdrawn.ByName,
                        r.First.Withdrawn.SignedByName
                    )),
            ],
            Suspect = Sizes(record, record.Measuring.Suspect.Where(r => r.Kind == ReadingKind.Size)),
        };
    }

    private static CertificateSize[] Sizes(SurfaceRecord record, IEnumerable<ReadingFact> sizes) =>
        [.. sizes.Select(r => new CertificateSize(r.Degrees ?? 0, r.Station, r.Value, r.Typed, r.Unit, record.GaugeOf(r)?.Name))];
}
