using Uncial.Data.Practice;

namespace Uncial.Web.Hosting;

/// <summary>Removes guests of the practice bench whose time is over, once an hour.</summary>
internal sealed partial class PracticeKeeper(IServiceScopeFactory scopes, TimeProvider time, ILogger<PracticeKeeper> log)
    : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromHours(1);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Every, time);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                await scope.ServiceProvider.GetRequiredService<PracticeDesk>().RemoveExpiredAsync(stoppingToken);
            }
#pragma warning disable CA1031 // The database may be away for a while: that must not end the application.
            catch (Exception e) when (!stoppingToken.IsCancellationRequested)
#pragma warning restore CA1031
            {
                NotRemoved(log, e);
            }
        }
    }

    [LoggerMessage(LogLevel.Warning, "Guests of practice whose time is over were not removed; it is tried again in an hour.")]
    private static partial void NotRemoved(ILogger log, Exception e);
}
