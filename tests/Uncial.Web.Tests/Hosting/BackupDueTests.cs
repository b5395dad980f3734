using System.Diagnostics;

namespace Uncial.Web.Tests;

/// <summary>When ./start makes the backup of the night.</summary>
public sealed class BackupDueTests : IDisposable
{
    private readonly string data = Directory.CreateTempSubdirectory("uncial-due").FullName;

    public void Dispose() => Directory.Delete(data, recursive: true);

    [Theory]
    [InlineData(72, null, null, true)]
    [InlineData(0, null, null, false)] // a shop of today
    [InlineData(72, 30, null, true)]
    [InlineData(72, 0, null, false)]
    [InlineData(72, 30, 0, false)] // it failed just now
    [InlineData(72, 30, 2, true)]
    [InlineData(72, -200, null, true)] // made by a clock that was ahead
    [InlineData(72, 30, -200, true)]
    public async Task It_is_due_once_a_night_and_an_hour_after_one_that_failed(int bornAgo, int? madeAgo, int? failedAgo, bool isDue)
    {
        foreach (var (name, ago) in new[] { ("db-password", (int?)bornAgo), ("backup.state", madeAgo), ("backup.failed", failedAgo) })
            if (ago is { } hours)
            {
                await File.WriteAllTextAsync(Path.Combine(data, name), "", TestContext.Current.CancellationToken);
                File.SetLastWriteTimeUtc(Path.Combine(data, name), DateTime.UtcNow.AddHours(-hours));
            }
        using var bash = Process.Start(
            new ProcessStartInfo("bash", ["-c", "data=$0 backups=$0; . tools/backups.sh; backup_is_due", data])
            {
                WorkingDirectory = Repository.Root(),
                UseShellExecute = false,
            }
        )!;
        await bash.WaitForExitAsync(TestContext.Current.CancellationToken);
        bash.ExitCode.ShouldBe(isDue ? 0 : 1);
    }
}
