using System.Diagnostics.Metrics;
using Npgsql;
using OpenTelemetry.Metrics;
using OpenTelemetry.Resources;
using OpenTelemetry.Trace;
using Serilog;
using Serilog.Core;
using Serilog.Events;

namespace Uncial.Web.Hosting;

/// <summary>
/// What the application says of itself to whoever looks after it: logs, and traces and metrics where somebody collects them. See
/// docs/operations.md.
/// </summary>
internal static class Telemetry
{
    /// <summary>Name of the meter.</summary>
    public const string Meter = "Uncial";

    private const long LargestLog = 10_000_000;
    private const int KeptLogs = 60;

    private const string Line =
        "{Timestamp:yyyy-MM-dd HH:mm:ss.fff zzz} {Level:u3} {TraceId} {Person} {RequestPath} {Message:lj}{NewLine}{Exception}";

    private const string ConsoleLine =
        "[{Timestamp:HH:mm:ss} {Level:u3}] {TraceId} {Person} {RequestPath} {Message:lj}{NewLine}{Exception}";

    /// <summary>Logs to the console, from where a service's go into the journal, and into files of a day where a folder is given.</summary>
    public static void AddLogs(this WebApplicationBuilder builder)
    {
        ArgumentNullException.ThrowIfNull(builder);
        builder.Services.AddSingleton<PersonOfLog>();
        builder.Host.UseSerilog(
            (context, services, log) =>
            {
                log.ReadFrom.Configuration(context.Configuration)
                    .Enrich.With(services.GetRequiredService<PersonOfLog>())
                    .WriteTo.Console(outputTemplate: ConsoleLine, formatProvider: System.Globalization.CultureInfo.InvariantCulture);
                if (context.Configuration["Logs:Folder"] is { Length: > 0 } folder)
                    log.WriteTo.File(
                        Path.Combine(folder, "uncial-.log"),
                        outputTemplate: Line,
                        formatProvider: System.Globalization.CultureInfo.InvariantCulture,
                        rollingInterval: RollingInterval.Day,
                        fileSizeLimitBytes: LargestLog,
                        rollOnFileSizeLimit: true,
                        retainedFileCountLimit: KeptLogs
                    );
            }
        );
    }

    /// <summary>Traces and metrics by OTLP where <c>OTEL_EXPORTER_OTLP_ENDPOINT</c> names a collector, else none.</summary>
    public static void AddTelemetry(this WebApplicationBuilder builder)
    {
        ArgumentNullException.ThrowIfNull(builder);
        builder.Services.AddSingleton<ShopMeter>();
        if (string.IsNullOrWhiteSpace(builder.Configuration["OTEL_EXPORTER_OTLP_ENDPOINT"]))
            return;
        builder
            .Services.AddOpenTelemetry()
            .ConfigureResource(r => r.AddService("uncial", serviceVersion: typeof(Telemetry).Assembly.GetName().Version?.ToString(3)))
            .WithTracing(t => t.AddAspNetCoreInstrumentation().AddNpgsql().AddOtlpExporter())
            .WithMetrics(m => m.AddAspNetCoreInstrumentation().AddNpgsqlInstrumentation().AddMeter(Meter).AddOtlpExporter());
    }
}

/// <summary>The metrics of the shop itself.</summary>
public sealed class ShopMeter : IDisposable
{
    private readonly Meter meter = new(Telemetry.Meter);
    private readonly Histogram<double> planned;

    public ShopMeter(Events.News news, BackupState backups, TimeProvider time)
    {
        ArgumentNullException.ThrowIfNull(news);
        ArgumentNullException.ThrowIfNull(backups);
        ArgumentNullException.ThrowIfNull(time);
        meter.CreateObservableGauge("uncial.event_streams", () => news.Streams, "{stream}", "Pages that listen for news");
        meter.CreateObservableGauge("uncial.gauges.connected", () => news.ConnectedGauges, "{gauge}", "Gauges that send");
        meter.CreateObservableGauge(
            "uncial.backup.age",
            () => AgeOf(backups.Now(), time),
            "s",
            "Since the last good backup; -1 for none yet"
        );
        planned = meter.CreateHistogram<double>("uncial.board.planned", "ms", "How long the day took to be planned");
    }

    private static double AgeOf(BackupNow? backup, TimeProvider time) =>
        backup?.GoodAt is { } good ? (time.GetUtcNow() - good).TotalSeconds : -1;

    /// <summary>The day was planned.</summary>
    /// <param name="milliseconds">It took so long.</param>
    /// <param name="steps">Steps that were planned.</param>
    public void Planned(double milliseconds, int steps) =>
        planned.Record(
            milliseconds,
            new KeyValuePair<string, object?>(
                "steps",
                steps <= 50 ? "few"
                    : steps <= 400 ? "many"
                    : "most"
            )
        );

    public void Dispose() => meter.Dispose();
}

/// <summary>Who was signed in when a line was logged: a number, so that logs hold no names.</summary>
internal sealed class PersonOfLog(IHttpContextAccessor accessor) : ILogEventEnricher
{
    public void Enrich(LogEvent logEvent, ILogEventPropertyFactory propertyFactory)
    {
        if (accessor.HttpContext?.User.FindFirst(System.Security.Claims.ClaimTypes.NameIdentifier)?.Value is { } id)
            logEvent.AddPropertyIfAbsent(propertyFactory.CreateProperty("Person", "person " + id));
    }
}
