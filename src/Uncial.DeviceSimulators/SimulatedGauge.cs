using System.Globalization;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;

namespace Uncial.DeviceSimulators;

/// <summary>
/// A gauge that is played: it talks as docs/formats/gauge-line.md says, shows what its spindle is turned to, and sends a reading when its
/// button is pressed. A sent reading is repeated until somebody has answered.
/// </summary>
/// <param name="name">What it is called.</param>
/// <param name="port">Port on the loopback address; 0 for any that is free.</param>
/// <param name="value">What it shows first.</param>
/// <param name="step">Its least step.</param>
public sealed class SimulatedGauge(string name, int port, decimal value, decimal step) : SimulatedDevice(name, port)
{
    /// <summary>How long it repeats a reading that nobody answers.</summary>
    public TimeSpan GivesUp { get; init; } = TimeSpan.FromSeconds(8);
    private readonly string session = Guid.NewGuid().ToString("N")[..8];
    private readonly Lock gate = new();
    private long number;
    private (GaugeLine Line, long SentAt)? unanswered;

    /// <summary>What the spindle is turned to, in <see cref="Unit"/>.</summary>
    public decimal Value { get; private set; } = value;

    public decimal Step => step;

    public LengthUnit Unit { get; private set; } = LengthUnit.Millimetre;

    public bool IsStable { get; private set; } = true;

    public int Battery { get; private set; } = 87;

    /// <summary>What became of the reading that was sent last.</summary>
    public string Answer { get; private set; } = "";

    /// <summary>What it shows, with the digits of its step.</summary>
    public string Shows => Math.Round(Value, Digits).ToString("F" + Digits, CultureInfo.InvariantCulture);

    private int Digits =>
        Unit == LengthUnit.Inch ? 4
        : Step < 0.01m ? 3
        : 2;

    /// <summary>Turns the spindle, changes the unit, lets it shake, or drains the battery.</summary>
    public Task TurnAsync(decimal? to = null, decimal? by = null, LengthUnit? unit = null, bool? stable = null, int? battery = null)
    {
        lock (gate)
        {
            if (unit is { } u && u != Unit)
                (Value, Unit) = (Length.From(Value, Unit).In(u), u);
            Value = Math.Clamp((to ?? Value) + (by ?? 0), -2000, 2000);
            (IsStable, Battery) = (stable ?? IsStable, Math.Clamp(battery ?? Battery, 0, 100));
        }
        return TellAsync(Line(GaugeWord.Now).Write());
    }

    /// <summary>Presses its button: what it shows is sent.</summary>
    public Task SendAsync()
    {
        GaugeLine line;
        lock (gate)
        {
            number++;
            line = Line(GaugeWord.Send);
            unanswered = (line, Environment.TickCount64);
            Answer = Hosts == 0 ? "nobody hears it yet" : "sent";
        }
        return TellAsync(line.Write());
    }

    protected override string Hello() => Line(GaugeWord.Hello).Write();

    protected override IEnumerable<string> Says() =>
        Unanswered() is { } line ? [Line(GaugeWord.Now).Write(), line.Write()] : [Line(GaugeWord.Now).Write()];

    protected override void Hear(string line)
    {
        if (line?.Split(" n=") is not [var word, var n])
            return;
        lock (gate)
        {
            if (n != number.ToString(CultureInfo.InvariantCulture))
                return;
            Answer = word == "TAKEN" ? "taken" : "nobody took it";
            unanswered = null;
        }
    }

    private GaugeLine Line(GaugeWord word) =>
        new(word, word == GaugeWord.Hello ? null : Shows, Unit, IsStable, Battery, word == GaugeWord.Send ? number : 0)
        {
            Session = session,
        };

    /// <summary>The reading that nobody has answered yet; after a while it is given up, so that it does not land at another part.</summary>
    private GaugeLine? Unanswered()
    {
        lock (gate)
        {
            if (unanswered is not { } sent)
                return null;
            if (Environment.TickCount64 - sent.SentAt < GivesUp.TotalMilliseconds)
                return sent.Line;
            (unanswered, Answer) = (null, "nobody answered, given up");
            return null;
        }
    }
}
