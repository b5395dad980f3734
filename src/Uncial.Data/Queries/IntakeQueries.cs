using Microsoft.EntityFrameworkCore;

namespace Uncial.Data.Queries;

/// <summary>What is proposed while a job is taken in.</summary>
/// <param name="Vehicles">Vehicles that were here or that the limit book knows, the newest first.</param>
/// <param name="Customers">Customers of earlier jobs, the newest first.</param>
public sealed record IntakeProposals(IReadOnlyList<string> Vehicles, IReadOnlyList<string> Customers);

/// <summary>Questions of the counter.</summary>
public static class IntakeQueries
{
    private const int MostJobs = 400;
    private const int MostVehicles = 600;

    /// <summary>Vehicles and customers of the last jobs, and the vehicles of the limit book: one question.</summary>
    public static async Task<IntakeProposals> ProposalsAsync(UncialDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var jobs = db
            .Jobs.OrderByDescending(j => j.Id)
            .Take(MostJobs)
            .Select(j => new
            {
                j.Id,
                j.Vehicle,
                j.Customer,
            });
        var book = db
            .Book.Where(b => b.EndedAt == null)
            .OrderBy(b => b.Vehicle)
            .Take(MostVehicles)
            .Select(b => new
            {
                Id = 0,
                b.Vehicle,
                Customer = (string?)null,
            });
        var rows = await jobs.Concat(book).AsNoTracking().ToListAsync(cancel);
        return new(
            [.. rows.OrderByDescending(r => r.Id).Select(r => r.Vehicle).Distinct(StringComparer.OrdinalIgnoreCase)],
            [.. rows.OrderByDescending(r => r.Id).Select(r => r.Customer).OfType<string>().Distinct(StringComparer.OrdinalIgnoreCase)]
        );
    }
}
