using System.Diagnostics.Metrics;

namespace Uncial.PageBench;

/// <summary>Counts what goes to the database and back, by the driver's own figures.</summary>
internal sealed class RoundTrips : IDisposable
{
    private readonly MeterListener listener = new();
    private long commands;

    public RoundTrips()
    {
        listener.InstrumentPublished = (instrument, on) =>
        {
            if (instrument.Meter.Name == "Npgsql" && instrument.Name == "db.client.operation.duration")
                on.EnableMeasurementEvents(instrument);
        };
        listener.SetMeasurementEventCallback<double>((_, _, _, _) => Interlocked.Increment(ref commands));
        listener.Start();
    }

    /// <summary>Round trips since the start.</summary>
    public long Count => Interlocked.Read(ref commands);

    public void Dispose() => listener.Dispose();
}
