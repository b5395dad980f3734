using Uncial.Core;

namespace Uncial.Data.Demo;

/// <summary>The limit book of the demo, as a file that a shop might keep. Vehicles, papers and figures are made up.</summary>
internal static class DemoBook
{
    private const string File = """
        vehicle,axle,part,new,machine_to,discard,max_runout,max_variation,max_out_of_round,across,band,unit,source,source_date
        Brindle L3 van,front,rotor,26.0,23.4,23.0,0.05,0.02,,300,52,mm,Brindle workshop sheet 14,2024-03-01
        Brindle L3 van,rear,rotor,16.0,,14.0,0.08,0.02,,280,44,mm,Brindle workshop sheet 14,2024-03-01
        Brindle L2 van,front,rotor,24.0,21.8,21.4,0.05,0.02,,282,50,mm,Brindle workshop sheet 12,2021-09-15
        Brindle L2 van,rear,drum,228.6,229.6,230.1,,,0.10,228.6,45,mm,Brindle workshop sheet 12,2021-09-15
        Pilchard city car,front,rotor,20.0,18.4,18.0,0.06,0.02,,240,40,mm,Pilchard service book,2019-05-20
        Pilchard city car,rear,drum,203.2,,205.2,,,0.10,203.2,38,mm,Pilchard service book,2019-05-20
        Ottershaw 4x4,front,rotor,28.0,26.0,25.4,0.05,0.02,,308,50,mm,Ottershaw data card 7,2022-11-02
        Ottershaw 4x4,rear,rotor,20.0,,18.0,0.08,0.02,,308,46,mm,Ottershaw data card 7,2022-11-02
        Ottershaw 4x4,rear,hat drum,190.0,,191.0,,,0.15,190,25,mm,Ottershaw data card 7,2022-11-02
        Ottershaw 4x4,rear,drum,254.0,255.1,255.5,,,0.13,254,55,mm,Ottershaw data card 3,2016-01-30
        School minibus Gannet 16,front,rotor,29.0,27.1,26.6,0.06,0.02,,322,58,mm,Gannet fleet manual,2020-08-10
        School minibus Gannet 16,rear,drum,280.0,281.4,282.0,,,0.15,280,60,mm,Gannet fleet manual,2020-08-10
        "Fulmar 90 saloon, 1958",front,drum,9.000,9.040,9.060,,,0.006,9.000,1.75,in,"Handbook in the museum, page 61",1958-04-01
        Skerry 7.5 tipper,front,rotor,34.0,31.5,31.0,0.10,0.03,,330,60,mm,Skerry lorry data,2018-02-12
        Dunlin trailer,,drum,203.2,204.2,204.7,,,0.15,203.2,42,mm,Dunlin axle sheet,2017-06-01
        """;

    public static IEnumerable<BookEntry> All(DateTimeOffset at, int by) =>
        BookCsv
            .Read(File, [], ShopRules.Default)
            .Lines.Select(l =>
            {
                var entry = l.Entry ?? throw new InvalidOperationException($"Line {l.Line} of the demo book is bad: {l.Faults[0]}");
                (entry.At, entry.ById) = (at, by);
                return entry;
            });
}
