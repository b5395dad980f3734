using Microsoft.Extensions.Configuration;
using Microsoft.Extensions.Time.Testing;
using Uncial.Web.Hosting;

namespace Uncial.Web.Tests;

public sealed class BackupStateTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("uncial-state").FullName;
    private readonly FakeTimeProvider time = new(DateTimeOffset.UtcNow);

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private BackupNow Now() =>
        new BackupState(
            new ConfigurationBuilder()
                .AddInMemoryCollection(new Dictionary<string, string?> { ["Backups:State"] = folder, ["Backups:Folder"] = "/mnt/office" })
                .Build(),
            time
        )
            .Now()
            .ShouldNotBeNull();

    private void Write(string name, string text) => File.WriteAllText(Path.Combine(folder, name), text);

    private string At(int hoursAgo) => time.GetUtcNow().AddHours(-hoursAgo).ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", null);

    [Fact]
    public void A_shop_of_today_has_its_first_night_before_it()
    {
        Write("db-password", "x");
        Now()
            .ShouldSatisfyAllConditions(b => b.GoodAt.ShouldBeNull(), b => b.IsLate.ShouldBeFalse(), b => b.Folder.ShouldBe("/mnt/office"));
        time.Advance(TimeSpan.FromHours(37));
        Now().IsLate.ShouldBeTrue();
    }

    [Theory]
    [InlineData(35, false)]
    [InlineData(37, true)]
    [InlineData(-200, true)] // made by a clock that was ahead
    public void A_backup_is_late_after_a_day_and_a_half(int hours, bool isLate)
    {
        Write("db-password", "x");
        Write(
            "backup.state",
            $"at={At(hours)}\nfile=/mnt/office/uncial-1.backup.gpg\nsize=663334\nhead=2004\nfree=65573089280\nsame-disk=no\n"
        );
        Now()
            .ShouldSatisfyAllConditions(
                b => b.IsLate.ShouldBe(isLate),
                b => b.Size.ShouldBe(663_334),
                b => b.Free.ShouldBe(65_573_089_280),
                b => b.IsOnSameDisk.ShouldBeFalse(),
                b => b.FailedAt.ShouldBeNull()
            );
    }

    [Fact]
    public void One_that_failed_since_is_told_with_its_reason()
    {
        Write("db-password", "x");
        Write("backup.state", $"at={At(20)}\nsize=1\nfree=2\nsame-disk=yes\n");
        Write("backup.failed", $"at={At(1)}\nwhy=/mnt/office cannot be written to: it = away.\n");
        Now()
            .ShouldSatisfyAllConditions(
                b => b.Why.ShouldBe("/mnt/office cannot be written to: it = away."),
                b => b.FailedAt.ShouldNotBeNull(),
                b => b.IsOnSameDisk.ShouldBeTrue()
            );
    }

    [Fact]
    public void A_note_that_is_cut_off_or_nonsense_is_no_good_backup()
    {
        Write("db-password", "x");
        Write("backup.state", "at=yester");
        Now().GoodAt.ShouldBeNull();
        Write("backup.state", "\0\0=\n\nsize");
        Now().GoodAt.ShouldBeNull();
    }
}
