using System.Diagnostics.Metrics;

namespace Uncial.Testing;

/// <summary>Counts what goes to a database and back, by the driver's own figures.</summary>
public sealed class RoundTrips : IDisposable
{
    private readonly MeterListener listener = new();
    private long commands;

    public RoundTrips(string database)
    {
        listener.InstrumentPublished = (instrument, on) =>
        {
            if (instrument.Meter.Name == "Npgsql" && instrument.Name == "db.client.operation.duration")
                on.EnableMeasurementEvents(instrument);
        };
        listener.SetMeasurementEventCallback<double>(
            (_, _, tags, _) =>
            {
                foreach (var tag in tags)
                    if (tag.Value is string value && value.Contains(database, StringComparison.Ordinal))
                    {
                        Interlocked.Increment(ref commands);
                        return;
                    }
            }
        );
        listener.Start();
    }

    /// <summary>Round trips since the start.</summary>
    public long Count => Interlocked.Read(ref commands);

    public void Dispose() => listener.Dispose();
}
