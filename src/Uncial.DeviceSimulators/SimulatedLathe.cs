using Uncial.Core.Cutting;
using Uncial.Core.Lengths;

namespace Uncial.DeviceSimulators;

/// <summary>A lathe's read-out that is played: it talks as docs/formats/lathe-line.md says. Two dials, a spindle, a feed.</summary>
/// <param name="name">What it is called.</param>
/// <param name="port">Port on the loopback address; 0 for any that is free.</param>
public sealed class SimulatedLathe(string name, int port) : SimulatedDevice(name, port)
{
    private readonly Lock gate = new();
    private LatheLine now = new(false, [Length.Zero, Length.Zero], LengthUnit.Millimetre, false, null, false, false);

    /// <summary>What it says now.</summary>
    public LatheLine Now
    {
        get
        {
            lock (gate)
                return now;
        }
    }

    /// <summary>Turns dials from their zero, starts and stops spindle and feed, or sets the dials to zero as they stand.</summary>
    /// <param name="outer">Millimetres by which the outer dial, or the boring bar's, is turned.</param>
    /// <param name="inner">Millimetres by which the inner dial is turned.</param>
    /// <param name="zero">Sets both to zero as they stand.</param>
    /// <param name="rpm">Speed of the spindle; 0 stops it, and its feed with it.</param>
    /// <param name="feed">Puts the feed in or out; only while the spindle turns.</param>
    /// <param name="inwards">Points the feed lever inwards or outwards.</param>
    public Task TurnAsync(decimal outer = 0, decimal inner = 0, bool zero = false, int? rpm = null, bool? feed = null, bool? inwards = null)
    {
        lock (gate)
        {
            Length To(int i, decimal by) => zero ? Length.Zero : Length.FromMillimetres(Math.Clamp(now.Dials[i].Millimetres + by, -50, 50));
            var turns = rpm is { } n ? n > 0 : now.SpindleTurns;
            now = now with
            {
                Dials = [To(0, outer), To(1, inner)],
                SpindleTurns = turns,
                TurnsPerMinute =
                    !turns ? null
                    : rpm is { } said ? Math.Min(said, 2000)
                    : now.TurnsPerMinute,
                Feeds = turns && (feed ?? now.Feeds),
                FeedsInwards = inwards ?? now.FeedsInwards,
            };
        }
        return TellAsync(Now.Write());
    }

    protected override string Hello() => new LatheLine(true, [], LengthUnit.Millimetre, false, null, false).Write();

    protected override IEnumerable<string> Says() => [Now.Write()];
}
