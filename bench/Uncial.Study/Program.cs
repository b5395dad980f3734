using System.Globalization;
using Uncial.Simulation;
using Uncial.Study;

// groups|slips|ways|rules|probe|records|places|why|all [parts of each kind in each row] [seed], or page [passes]: what comes of virtual
// parts. See docs/study.md.
var what = args.Length > 0 ? args[0] : "all";
var parts = args.Length > 1 ? int.Parse(args[1], CultureInfo.InvariantCulture) : 20_000;
var seed = args.Length > 2 ? long.Parse(args[2], CultureInfo.InvariantCulture) : 1;
var to = Console.Out;
var clock = System.Diagnostics.Stopwatch.StartNew();
var beyond = 0L;
void Head(string text)
{
    to.WriteLine();
    to.WriteLine(FormattableString.Invariant($"{text}: {parts} of each kind, seed {seed}."));
    to.WriteLine();
}
if (what is "groups" or "all")
{
    Head("Careful work, light technique, by group");
    beyond += Studies.Groups(parts, seed, Slips.None, to);
}
if (what is "probe" or "all")
{
    Head("A probe pass where no run-out was measured");
    Studies.Probe(parts, seed, to);
}
if (what is "records" or "all")
{
    Head("Sixty parts on each lathe, cross-slide out by 0.01 to 0.02 over the band");
    Records.Ledger(Math.Max(4, parts / 100), seed, to);
    Head("Repeats of a gauge on record");
    Records.Repeats(2_000, seed, to);
}
if (what is "places" or "all")
{
    Head("Readings added where they tell most");
    Studies.Places(parts, seed, to);
}
if (what is "page")
    for (var n = 0; n < 20_000; n++)
        if (
            Uncial.Study.Operator.PageOf(
                VirtualJob.Draw(seed * 1_000_003 + n, Uncial.Core.Parts.PartKind.Rotor, onGrinder: true),
                Uncial.Core.Planning.Technique.BuiltIn[5],
                parts
            ) is
            { } page
        )
        {
            to.WriteLine(FormattableString.Invariant($"{page.Passes} passes on record: {page.Milliseconds:0.0} ms a page"));
            break;
        }
if (what is "why")
    Studies.Why(parts, seed, to);
if (what is "slips" or "all")
{
    Head("With what operators get wrong, one by one and all together");
    Studies.EachSlip(parts, seed, to);
}
if (what is "ways" or "all")
{
    Head("The fleet, every technique and three habits");
    beyond += Studies.Ways(parts, seed, to);
}
if (what is "rules" or "all")
{
    Head("One rule left out");
    Studies.Rules(parts, seed, to);
}
Console.Error.WriteLine(FormattableString.Invariant($"{clock.Elapsed.TotalSeconds:0.0} s on {Environment.ProcessorCount} cores"));

// The promise that this product stands on: by careful work no part leaves beyond discard.
return beyond == 0 ? 0 : 1;
