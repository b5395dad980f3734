using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Planning;
using Uncial.Web.Charts;
using Uncial.Web.Text;

namespace Uncial.Web.Events;

/// <summary>What a read-out says, held against where the dials shall stand.</summary>
internal static class ReadOutWords
{
    public static object Of((LatheLine Line, Lathe Profile)? now, IReadOnlyList<Length> targets, CutStage stage)
    {
        if (now is not { } n)
            return new
            {
                state = "lost",
                word = Words.Say("readOut.lost"),
                dials = Array.Empty<object>(),
            };
        var (line, lathe) = n;
        // A read-out with one dial where two tools cut rotors is the boring bar's.
        var dial = lathe.DialOf(
            line.Dials.Count == 1 && lathe.TwinCutter || !lathe.CutsRotors ? Core.Parts.PartKind.Drum : Core.Parts.PartKind.Rotor
        );
        var turns = line.SpindleTurns
            ? line.TurnsPerMinute is { } rpm
                ? Words.Say("readOut.turnsAt", rpm)
                : Words.Say("readOut.turns")
            : Words.Say("readOut.stands");
        return new
        {
            state = "connected",
            word = $"{turns}, {Words.Say(line.Feeds ? "readOut.feeds" : "readOut.feedOut")}",
            fault = ReadOutCheck.Of(line, stage, targets, dial.Division) is { } fault
                ? Words.Say(
                    "readOut.fault." + fault.Fault,
                    fault.Side is { } side
                        ? Words.Say(
                            "readOut.dial."
                                + (
                                    line.Dials.Count == 1 ? "bar"
                                    : side == 0 ? "outer"
                                    : "inner"
                                )
                        )
                        : "",
                    fault.Off is { } off ? DialText.Of(dial, off) : ""
                )
                : null,
            dials = line.Dials.Select(
                (at, i) =>
                {
                    var state = DialPosition.Of(at, i < targets.Count ? targets[i] : null, dial.Division);
                    return new
                    {
                        turn = DialPosition.Degrees(at, dial.Division, dial.DivisionsPerTurn),
                        says = state.ToGo is { } left ? Words.Say("readOut." + state.Word, DialText.Of(dial, left)) : DialText.Of(dial, at),
                    };
                }
            ),
        };
    }
}
