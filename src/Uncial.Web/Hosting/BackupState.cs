using System.Globalization;
using Uncial.Core.Times;

namespace Uncial.Web.Hosting;

/// <summary>How the backups stand, as the process that makes them has noted it beside the database.</summary>
/// <param name="Folder">Where they are kept.</param>
/// <param name="GoodAt">When the newest was made that was restored and checked; null for none yet.</param>
/// <param name="Size">Its size in bytes.</param>
/// <param name="Free">Bytes that were free in its folder then.</param>
/// <param name="FailedAt">When one failed after that; null where none did.</param>
/// <param name="Why">Why it failed.</param>
/// <param name="IsLate">There should be a newer one.</param>
/// <param name="IsOnSameDisk">They lie on the disk of the database: a disk that breaks takes both.</param>
public sealed record BackupNow(
    string Folder,
    DateTimeOffset? GoodAt,
    long? Size,
    long? Free,
    DateTimeOffset? FailedAt,
    string? Why,
    bool IsLate,
    bool IsOnSameDisk
);

/// <summary>
/// Reads the notes of the nightly backups. The folder of the backups is not asked: a share that hangs would hang the page.
/// </summary>
public sealed class BackupState(IConfiguration configuration, TimeProvider time)
{
    /// <summary>How they stand now; null where nothing makes backups, as under development.</summary>
    public BackupNow? Now()
    {
        if (configuration["Backups:State"] is not { Length: > 0 } folder)
            return null;
        var (good, failed) = (Read(Path.Combine(folder, "backup.state")), Read(Path.Combine(folder, "backup.failed")));
        var (goodAt, failedAt) = (At(good), At(failed));
        // A shop that was made today has its first night before it.
        var since = goodAt ?? new DateTimeOffset(File.GetLastWriteTimeUtc(Path.Combine(folder, "db-password")), TimeSpan.Zero);
        return new(
            configuration["Backups:Folder"] ?? "",
            goodAt,
            Number(good, "size"),
            Number(good, "free"),
            failedAt,
            failedAt is null ? null : failed.GetValueOrDefault("why"),
            BackupRetention.IsLate(since, time.GetUtcNow()),
            good.GetValueOrDefault("same-disk") == "yes"
        );
    }

    private static Dictionary<string, string> Read(string path)
    {
        try
        {
            return File.ReadLines(path)
                .Take(20)
                .Select(l => l.Split('=', 2))
                .Where(p => p.Length == 2)
                .GroupBy(p => p[0], StringComparer.Ordinal)
                .ToDictionary(g => g.Key, g => g.First()[1], StringComparer.Ordinal);
        }
        catch (IOException)
        {
            return [];
        }
    }

    private static DateTimeOffset? At(Dictionary<string, string> note) =>
        DateTimeOffset.TryParse(note.GetValueOrDefault("at"), CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var at)
            ? at
            : null;

    private static long? Number(Dictionary<string, string> note, string name) =>
        long.TryParse(note.GetValueOrDefault(name), NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null;
}
