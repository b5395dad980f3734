using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;

namespace Uncial.Data.Demo;

/// <summary>The jobs of the demo, each with what it shows.</summary>
internal sealed class DemoJobs(DemoBench bench, int ines, int tom)
{
    private const LengthUnit Mm = LengthUnit.Millimetre;
    private const LengthUnit Inch = LengthUnit.Inch;

    public async Task LoadAsync()
    {
        await FinishedYesterdayAsync();
        await OvalThatTwoAxesCallRoundAsync();
        await PairOfWhichOneSideIsDoneAsync();
        await OnTheLatheAsync();
        await MinibusAsync();
        await InchDrumsAsync();
        await ParkingBrakeInTheHatAsync();
        await TooThinToCutAsync();
        await PromisedTooSoonAsync();
        await PromisedForTheFerryAsync();
    }

    private void Start(int who, int minutesAgo) => (bench.By, bench.MinutesAgo) = (who, minutesAgo);

    private async Task FinishedYesterdayAsync()
    {
        Start(ines, 60 * 26);
        var job = await bench.JobAsync(2410, "Brindle L3 van", "Harbour bakery", 148_200, null);
        foreach (
            var (corner, before, after) in new[]
            {
                (
                    Corner.FrontLeft,
                    new[] { "24.31", "24.33", "24.36", "24.38", "24.37", "24.35", "24.32", "24.30" },
                    new[] { "24.172", "24.174", "24.176", "24.175", "24.174", "24.173", "24.172", "24.171" }
                ),
                (
                    Corner.FrontRight,
                    ["24.42", "24.44", "24.45", "24.46", "24.45", "24.44", "24.43", "24.42"],
                    ["24.262", "24.263", "24.264", "24.264", "24.263", "24.262", "24.262", "24.261"]
                ),
            }
        )
        {
            var rotor =
                corner == Corner.FrontRight
                    ? await bench.AgainAsync(job, await TwiceHereBeforeAsync())
                    : await bench.RotorAsync(job, corner, null, 300, 52, Mm, "26.0", "23.4", "23.0");
            await bench.ReadAsync(rotor, Mm, before);
            if (corner == Corner.FrontLeft)
            {
                await bench.MountAsync(rotor, ("0.09", 40), ("0.06", 160), goesOn: false);
                await bench.MountAsync(rotor, ("0.08", 40), ("0.05", 90), "Cleaned twice, comes out the same.", RemountCause.Nothing);
            }
            else
            {
                await bench.MountAsync(rotor, ("0.09", 40), ("0.05", 330), goesOn: false);
                await bench.MountAsync(rotor, ("0.06", 40), ("0.05", 55), found: RemountCause.Dirt);
            }
            await FacesAsync(rotor, "0.09", "0.05", "0.05", "0.02");
            await bench.PlanAsync(rotor, "working");
            await bench.CutAsync(rotor);
            await bench.ReadAsync(rotor, Mm, after);
            await bench.ConfirmAsync(rotor);
            await bench.CloseAsync(rotor, OutcomeKind.Released);
        }
    }

    /// <summary>The van's front right rotor: looked at at 71 300 km and left as it was, cut at 112 400.</summary>
    private async Task<Part> TwiceHereBeforeAsync()
    {
        const int day = 60 * 24;
        var (by, minutes) = (bench.By, bench.MinutesAgo);
        Start(tom, 861 * day);
        var first = await bench.RotorAsync(
            await bench.JobAsync(1802, "Brindle L3 van", "Harbour bakery", 71_300, null),
            Corner.FrontRight,
            null,
            300,
            52,
            Mm,
            "26.0",
            "23.4",
            "23.0"
        );
        await bench.ReadAsync(first, Mm, "25.35", "25.36", "25.36", "25.37", "25.37", "25.36", "25.36", "25.35");
        await FacesAsync(first, "0.03", "0.02", "0", "0");
        await bench.LeaveUncutAsync(first);
        await bench.ConfirmAsync(first);
        await bench.CloseAsync(first, OutcomeKind.Released);
        Start(ines, 412 * day);
        var second = await bench.AgainAsync(await bench.JobAsync(2107, "Brindle L3 van", "Harbour bakery", 112_400, null), first);
        await bench.ReadAsync(second, Mm, "24.98", "24.99", "25.01", "25.02", "25.02", "25.00", "24.99", "24.97");
        await bench.MountAsync(second, ("0.05", 40), ("0.05", 55));
        await FacesAsync(second, "0.05", "0.04", "0.03", "0.03");
        await bench.PlanAsync(second, "working");
        await bench.CutAsync(second);
        await bench.ReadAsync(second, Mm, "24.843", "24.844", "24.845", "24.845", "24.844", "24.844", "24.843", "24.842");
        await bench.ConfirmAsync(second);
        await bench.CloseAsync(second, OutcomeKind.Released);
        Start(by, minutes);
        return second;
    }

    private async Task OvalThatTwoAxesCallRoundAsync()
    {
        Start(tom, 215);
        var job = await bench.JobAsync(2412, "Pilchard city car", "A. Lund", 96_400, 2.5);
        var left = await bench.DrumAsync(job, Corner.RearLeft, null, 203.2m, 38, Mm, "203.2", null, "205.2");
        await bench.ReadAsync(left, Mm, "203.62", "203.86", "203.62", "203.38");
        var right = await bench.DrumAsync(job, Corner.RearRight, null, 203.2m, 38, Mm, "203.2", null, "205.2");
        await bench.ReadAsync(right, Mm, "203.55");
    }

    private async Task PairOfWhichOneSideIsDoneAsync()
    {
        Start(tom, 330);
        var job = await bench.JobAsync(2415, "Ottershaw 4x4", "Lifeboat station", 61_050, 0.75);
        var right = await DrumCutAsync(job, Corner.RearRight, ["254.58", "254.64", "254.60", "254.54"]);
        await bench.ReadAsync(right, Mm, "254.88", "254.88", "254.87", "254.88");
        await bench.ConfirmAsync(right);
        await bench.CloseAsync(right, OutcomeKind.Released);
        Start(ines, 150);
        var rotor = await bench.RotorAsync(job, Corner.FrontLeft, null, 308, 50, Mm, "28.0", "26.0", "25.4");
        await bench.ReadAsync(rotor, Mm, "27.14", "27.15", "27.17", "27.18", "27.18", "27.16", "27.15", "27.14");
        await bench.MountAsync(rotor, ("0.05", 200), ("0.03", 215));
        await FacesAsync(rotor, "0.05", "0.03", "0.04", "0.03");
        await bench.PlanAsync(rotor, "working");
        await bench.CutAsync(rotor);
        await bench.ReadAsync(rotor, Mm, "26.995", "26.996", "26.997", "26.997", "26.997", "26.996", "26.996", "26.995");
        await bench.ConfirmAsync(rotor);
        Start(tom, 95);
        await DrumCutAsync(job, Corner.RearLeft, ["254.60", "254.62", "254.54", "254.50"]);
    }

    private async Task<Part> DrumCutAsync(Job job, Corner corner, string[] before)
    {
        var drum = await bench.DrumAsync(job, corner, null, 254, 55, Mm, "254.0", "255.1", "255.5");
        await bench.ReadAsync(drum, Mm, before);
        if (corner == Corner.RearLeft)
            await bench.MountAsync(drum, ("0.07", 120), ("0.02", 300), goesOn: false);
        await bench.MountAsync(drum, ("0.03", 120), ("0.02", 150), found: corner == Corner.RearLeft ? RemountCause.Dirt : null);
        await bench.FigureAsync(drum, ReadingKind.Groove, "0.06");
        await bench.FigureAsync(drum, ReadingKind.Eccentricity, "0.01");
        await bench.PlanAsync(drum, "light");
        for (var pass = 0; pass < 2; pass++)
            await bench.CutAsync(drum, darkOuter: pass == 0 ? 0b1100_0011_0000 : 0);
        return drum;
    }

    private async Task OnTheLatheAsync()
    {
        Start(ines, 70);
        var job = await bench.JobAsync(2417, "Brindle L3 van", "Post van no. 2", 203_700, 1.5);
        var left = await bench.RotorAsync(job, Corner.FrontLeft, null, 300, 52, Mm, "26.0", "23.4", "23.0");
        await bench.ReadAsync(left, Mm, "24.34", "24.32", "24.29", "24.27", "24.28", "24.30", "24.31", "24.33");
        await bench.MountAsync(left, ("0.08", 300), ("0.04", 240), goesOn: false);
        await bench.MountAsync(left, ("0.07", 300), ("0.03", 250), "Promised at noon; cone 3 is known for it.", RemountCause.Nut);
        await FacesAsync(left, "0.07", "0.04", "0.08", "0.06");
        await bench.PlanAsync(left, "light");
        await bench.CutAsync(left, darkOuter: 0b0000_0011_1000, darkInner: 0b0010_0000_0000);
        var right = await bench.RotorAsync(job, Corner.FrontRight, null, 300, 52, Mm, "26.0", "23.4", "23.0");
        await bench.ReadAsync(right, Mm, "24.38", "24.37", "24.38", "24.40", "24.41", "24.42", "24.41", "24.39");
        await bench.MountAsync(right, ("0.08", 20), ("0.05", 70), "The same cone as on the left side.");
        await FacesAsync(right, "0.04", "0.05", "0.03", "0.03");
    }

    private async Task MinibusAsync()
    {
        Start(tom, 120);
        var job = await bench.JobAsync(2418, "School minibus Gannet 16", "Island school", 88_900, 5);
        var left = await bench.RotorAsync(job, Corner.FrontLeft, null, 322, 58, Mm, "29.0", "27.1", "26.6");
        await bench.ReadAsync(left, Mm, "27.62", "27.64", "27.66", "27.67", "27.66", "27.64", "27.63", "27.62");
        var right = await bench.RotorAsync(job, Corner.FrontRight, null, 322, 58, Mm, "29.0", "27.1", "26.6");
        await bench.ReadAsync(right, Mm, "27.48", "27.51", "27.53");
        await bench.DrumAsync(job, Corner.RearLeft, null, 280, 60, Mm, "280.0", "281.4", "282.0", 12, 45);
        await bench.DrumAsync(job, Corner.RearRight, null, 280, 60, Mm, "280.0", "281.4", "282.0", 12, 45);
    }

    private async Task InchDrumsAsync()
    {
        Start(tom, 300);
        var job = await bench.JobAsync(2419, "Fulmar 90 saloon, 1958", "Museum of the quay", 41_300, 24);
        var left = await bench.DrumAsync(job, Corner.FrontLeft, null, 228.6m, 44, Inch, "9.000", "9.040", "9.060");
        await bench.ReadAsync(left, Inch, "8 7/8 + 150t", "9.024", "9.026", "9.027");
        await bench.MountAsync(left, ("0.05", 60), ("0.04", 75));
        await bench.FigureAsync(left, ReadingKind.Eccentricity, "0");
        await bench.PlanAsync(left, "light");
        await bench.CutAsync(left);
        await bench.ReadAsync(left, Inch, "9.041", "9.041", "9.042", "9.041");
        bench.By = ines;
        await bench.ConfirmAsync(left, "The slide had moved in its lock; it is set right, the drum was read twice.");
        await bench.CloseAsync(left, OutcomeKind.Released, "No other drum is to be had; show car, driven in summer.", betweenLimits: true);
        bench.By = tom;
        await bench.DrumAsync(job, Corner.FrontRight, null, 228.6m, 44, Inch, "9.000", "9.040", "9.060");
    }

    private async Task ParkingBrakeInTheHatAsync()
    {
        Start(ines, 70);
        var job = await bench.JobAsync(2421, "Ottershaw 4x4", "Coastguard", 119_600, 26);
        var left = await bench.RotorAsync(job, Corner.RearLeft, null, 308, 46, Mm, "20.0", null, "18.0");
        await bench.HatDrumAsync(left, 190, 25, "190.0", "191.0");
        await bench.ReadAsync(left, Mm, "19.21", "19.22", "19.22", "19.23", "19.22");
        var right = await bench.RotorAsync(job, Corner.RearRight, null, 308, 46, Mm, "20.0", null, null);
        await bench.HatDrumAsync(right, 190, 25, "190.0", "191.0");
    }

    private async Task TooThinToCutAsync()
    {
        Start(ines, 240);
        var job = await bench.JobAsync(2423, "Skerry 7.5 tipper", "Roads depot", 240_800, 22);
        var left = await bench.RotorAsync(job, Corner.FrontLeft, null, 330, 60, Mm, "34.0", "31.5", "31.0");
        await bench.ReadAsync(left, Mm, "30.98", "31.02", "31.05", "31.06", "31.04", "31.01", "30.97", "30.93");
        var right = await bench.RotorAsync(job, Corner.FrontRight, null, 330, 60, Mm, "34.0", "31.5", "31.0");
        await bench.ReadAsync(right, Mm, "30.71", "30.74", "30.78", "30.80", "30.79", "30.76", "30.73", "30.70");
        await bench.CloseAsync(right, OutcomeKind.Scrapped, "0.30 under discard all round.", aside: new(ScrapCause.BeyondDiscard));
        var spare = await bench.RotorAsync(job, Corner.Other, "Spare", 330, 60, Mm, "34.0", "31.5", "31.0");
        await bench.ReadAsync(spare, Mm, "33.10", "33.11", "33.12", "33.12", "33.11", "33.11", "33.10", "33.10");
        await bench.LeaveUncutAsync(spare);
        await bench.ConfirmAsync(spare);
        await bench.CloseAsync(spare, OutcomeKind.Shelved, aside: new(Place: "Rack 3", Preservative: "Light oil"));
    }

    /// <summary>Taken in late for a time that nothing can keep any more.</summary>
    private async Task PromisedTooSoonAsync()
    {
        Start(tom, 25);
        var job = await bench.JobAsync(2424, "Pilchard city car", "District nurse", 58_700, 0.5);
        var left = await bench.RotorAsync(job, Corner.FrontLeft, null, 256, 44, Mm, "22.0", null, "20.0");
        await bench.ReadAsync(left, Mm, "21.20", "21.21", "21.22", "21.22", "21.21", "21.21", "21.20", "21.20");
        await bench.RotorAsync(job, Corner.FrontRight, null, 256, 44, Mm, "22.0", null, "20.0");
    }

    /// <summary>Kept as it is planned, and missed if another part is put before it.</summary>
    private async Task PromisedForTheFerryAsync()
    {
        Start(ines, 20);
        var job = await bench.JobAsync(2425, "Gannet 16 crew bus", "Ferry crew", 131_900, 3.25);
        await bench.RotorAsync(job, Corner.FrontLeft, null, 322, 58, Mm, "29.0", "27.1", "26.6");
        await bench.RotorAsync(job, Corner.FrontRight, null, 322, 58, Mm, "29.0", "27.1", "26.6");
    }

    private async Task FacesAsync(Part rotor, string runoutOuter, string runoutInner, string grooveOuter, string grooveInner)
    {
        await bench.FigureAsync(rotor, ReadingKind.RunoutOuter, runoutOuter);
        await bench.FigureAsync(rotor, ReadingKind.RunoutInner, runoutInner);
        await bench.FigureAsync(rotor, ReadingKind.GrooveOuter, grooveOuter);
        await bench.FigureAsync(rotor, ReadingKind.GrooveInner, grooveInner);
    }
}
