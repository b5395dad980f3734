using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Practice.Drills;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The sentences of the drills. Sizes stand in the unit of the item, whatever unit the reader has chosen.</summary>
internal static class AskWords
{
    /// <summary>What is asked, in a few words.</summary>
    public static string Title(Ask ask) => Words.Say("ask." + Name(ask) + ".title");

    /// <summary>What the drawing shows, beside its title; empty for nothing.</summary>
    public static string Sub(DrillItem item) =>
        item.Picture is DrillPicture.Gauge { Shown.Design: var gauge } ? Words.Say("gaugeForm." + gauge.Form) : "";

    /// <summary>What is asked, with its figures.</summary>
    public static string Of(Ask ask) =>
        ask switch
        {
            Ask.GaugeReads { From: { } from } => Words.Say(
                "ask.gaugeReads.from",
                Plain(from, from.Millimetres % 1 == 0 ? LengthUnit.Millimetre : LengthUnit.Inch)
            ),
            Ask.StartForLimit a => Words.Say("ask.startForLimit", Limit(a.Discard, a.Unit), Plain(a.Reach, a.ReachUnit)),
            Ask.LimitInOtherUnit a => Words.Say(
                a.Part == PartKind.Rotor ? "ask.limitInOtherUnit.rotor" : "ask.limitInOtherUnit.drum",
                Limit(a.Limit, a.From),
                LengthText.Name(a.To),
                a.To == LengthUnit.Inch ? "0.001" : "0.01"
            ),
            Ask.WithinOrBeyond a => Words.Say(
                a.Part == PartKind.Rotor ? "ask.withinOrBeyond.rotor" : "ask.withinOrBeyond.drum",
                Limit(a.Limit, a.LimitUnit),
                Figure(a.Reading, a.ReadingUnit)
            ),
            Ask.WhichIsWorse a => Words.Say(a.Part == PartKind.Rotor ? "ask.whichIsWorse.rotor" : "ask.whichIsWorse.drum"),
            Ask.DiameterAfter a => Words.Say("ask.diameterAfter", Figure(a.Diameter, a.Unit), Figure(a.Depth, a.Unit)),
            Ask.ThicknessAfter a => Words.Say("ask.thicknessAfter", Figure(a.Thickness, a.Unit), Figure(a.EachSide, a.Unit)),
            Ask.DialForDepth a => Words.Say("ask.dialForDepth", Figure(a.Depth, a.Unit)),
            Ask.Marking a => Words.Say(a.Part == PartKind.Rotor ? "ask.marking.rotor" : "ask.marking.drum"),
            Ask.Scratches a => Words.Say("ask.scratches", Words.Say("ask.turned." + a.Turned), Mm(a.First), Mm(a.Second)),
            Ask.ConeForHole a => Words.Say("ask.coneForHole", Mm(a.Hole)),
            Ask.CupsForPart { Size: { } size } a => Words.Say(
                "ask.cupsForPart.drum",
                Mm(a.Register),
                Mm(a.Cone),
                Mm(size),
                Mm(a.CutterRoom!.Value)
            ),
            Ask.CupsForPart a => Words.Say("ask.cupsForPart.rotor", Mm(a.Register), Mm(a.Cone)),
            Ask.HowHeld { Hole: { } hole } a => Words.Say(a.Part == PartKind.Rotor ? "ask.howHeld.rotor" : "ask.howHeld.drum", Mm(hole)),
            Ask.HowHeld a => Words.Say(a.Part == PartKind.Rotor ? "ask.howHeld.hubbedRotor" : "ask.howHeld.hubbedDrum"),
            Ask.WhatIsWrong a => Words.Say(a.Part == PartKind.Rotor ? "ask.whatIsWrong.rotor" : "ask.whatIsWrong.drum"),
            _ => Words.Say("ask." + Name(ask)),
        };

    /// <summary>An answer to pick.</summary>
    public static string Of(Choice choice) =>
        choice switch
        {
            Choice.Size a => LengthText.Figure(a.Value, a.Unit, a.Decimals) + " " + LengthText.Name(a.Unit),
            Choice.Limit a => Words.Say(
                "choice.limit." + a.Kind,
                LengthText.Figure(a.Value, a.Unit, a.Decimals) + " " + LengthText.Name(a.Unit)
            ),
            Choice.TheSetUp a => Words.Say("choice.theSetUp", Mm(a.Runout)),
            Choice.Both a => Words.Say("choice.both", Mm(a.SetUp)),
            Choice.Adapter { What: { Kind: AdapterKind.Cone } cone } => Words.Say("choice.cone", Bare(cone.Least), Mm(cone.Greatest)),
            Choice.Adapter { What: var cup } => Words.Say("choice.cups", Mm(cup.Outside), Mm(cup.Recess)),
            Choice.Held a => Words.Say("choice.held." + a.Way),
            Choice.Lock a => Words.Say("choice.lock", a.Name),
            _ => Words.Say("choice." + Camel(choice.GetType().Name)),
        };

    private static string Name(Ask ask) => Camel(ask.GetType().Name);

    private static string Camel(string name) => char.ToLowerInvariant(name[0]) + name[1..];

    private static string Figure(Length length, LengthUnit unit) =>
        LengthText.Figure(length, unit, unit == LengthUnit.Inch ? 3 : 2) + " " + LengthText.Name(unit);

    /// <summary>A limit as it is cast: inches to a thousandth, millimetres to a tenth where it has no more.</summary>
    private static string Limit(Length limit, LengthUnit unit) =>
        unit == LengthUnit.Inch
            ? Figure(limit, unit)
            : LengthText.Figure(limit, unit, decimal.Round(limit.Millimetres, 1) == limit.Millimetres ? 1 : 2) + " mm";

    private static string Plain(Length length, LengthUnit unit) => Number(length.In(unit)) + " " + LengthText.Name(unit);

    private static string Mm(Length length) => Bare(length) + " mm";

    private static string Bare(Length length) => Number(length.Millimetres);

    private static string Number(decimal value) => value.ToString("0.####", System.Globalization.CultureInfo.InvariantCulture);
}
