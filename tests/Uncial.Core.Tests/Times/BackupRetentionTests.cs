using Uncial.Core.Times;

namespace Uncial.Core.Tests;

public class BackupRetentionTests
{
    private static readonly DateTime First = new(2026, 1, 1, 2, 0, 0);

    /// <summary>Backups as they stand after nights of making one and removing what is not kept.</summary>
    private static List<DateTime> After(int nights, Func<int, bool>? fails = null)
    {
        List<DateTime> there = [];
        for (var night = 0; night < nights; night++)
        {
            if (fails?.Invoke(night) != true)
                there.Add(First.AddDays(night));
            foreach (var gone in BackupRetention.NotKept(there, DateOnly.FromDateTime(First.AddDays(night))))
                there.Remove(gone);
        }
        return there;
    }

    [Fact]
    public void Fourteen_days_eight_weeks_and_twenty_four_months_are_there_after_years()
    {
        const int nights = 365 * 4;
        var there = After(nights);
        var today = First.AddDays(nights - 1);
        for (var back = 0; back < BackupRetention.Days; back++)
            there.ShouldContain(today.AddDays(-back));
        var monday = today.AddDays(-(((int)today.DayOfWeek + 6) % 7));
        for (var back = 1; back < BackupRetention.Weeks; back++)
            there.ShouldContain(monday.AddDays((-7 * back) + 6), $"the Sunday {back} weeks ago");
        for (var back = 1; back < BackupRetention.Months; back++)
            there.ShouldContain(
                t => t == new DateTime(today.Year, today.Month, 1, 2, 0, 0).AddMonths(1 - back).AddDays(-1),
                $"{back} months ago"
            );
        there.Count.ShouldBeLessThanOrEqualTo(BackupRetention.Days + BackupRetention.Weeks + BackupRetention.Months);
    }

    [Fact]
    public void A_machine_that_was_off_loses_none_by_that()
    {
        var before = After(300);
        // Half a year off, then one night: it takes the place of the oldest day and the oldest week.
        var after = After(481, fails: night => night is >= 300 and < 480);
        after.ShouldContain(First.AddDays(480));
        before.Except(after).Count().ShouldBeLessThanOrEqualTo(2);
        before.Select(t => (t.Year, t.Month)).Except(after.Select(t => (t.Year, t.Month))).ShouldBeEmpty();
        After(4000, fails: night => night > 20).ShouldBe(After(21));
    }

    [Fact]
    public void A_clock_that_is_wrong_takes_nothing_away()
    {
        var there = After(40);
        // Back before the first of them: all were made after today.
        BackupRetention.NotKept(there, DateOnly.FromDateTime(First.AddDays(-1))).ShouldBeEmpty();
        // Forward by thirty years for a night: what went is one day; back again, that night is not counted.
        var odd = new DateTime(2056, 1, 1, 2, 0, 0);
        BackupRetention.NotKept([.. there, odd], new(2056, 1, 1)).Count.ShouldBeLessThanOrEqualTo(1);
        var wrong = Enumerable.Range(0, 30).Select(d => odd.AddDays(d)).ToList();
        BackupRetention.NotKept([.. there, .. wrong], DateOnly.FromDateTime(First.AddDays(39))).ShouldBeEmpty();
    }

    [Fact]
    public void Of_a_day_the_newest_is_kept()
    {
        var day = new DateTime(2026, 6, 3);
        BackupRetention
            .NotKept([day.AddHours(2), day.AddHours(14), day.AddHours(9), day.AddHours(14)], new(2026, 6, 4))
            .ShouldBe([day.AddHours(2), day.AddHours(9)]);
        BackupRetention.NotKept([], new(2026, 6, 4)).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("uncial-2026-12-01T0200.backup.gpg", true)]
    [InlineData("uncial-2026-12-01T0200.backup.gpg.part", false)]
    [InlineData("uncial-before-20261201081500_Addresses.backup.gpg", false)]
    [InlineData("uncial-2026-13-01T0200.backup.gpg", false)]
    [InlineData("letters.gpg", false)]
    public void Only_its_own_files_are_taken_for_backups(string name, bool isOne)
    {
        BackupRetention.MadeAt(name).HasValue.ShouldBe(isOne);
        if (isOne)
            BackupRetention.NameOf(BackupRetention.MadeAt(name)!.Value).ShouldBe(name);
    }
}
