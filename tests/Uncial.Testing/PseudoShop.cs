using Microsoft.AspNetCore.Hosting;

namespace Uncial.Testing;

/// <summary>A shop whose pages speak a language that nobody does.</summary>
public sealed class PseudoShop : RunningShop
{
    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        base.ConfigureWebHost(builder);
        builder.UseSetting("Pseudo", "true");
    }

    /// <summary>Every kind of page, in the states that the demo shows.</summary>
    public static IReadOnlyList<string> Pages { get; } =
    [
        "/",
        "/receive",
        "/receive/2421",
        "/receive/2421/TQC4Q",
        "/look/TQA5S",
        "/measure/TQA5S",
        "/measure/TQC3P",
        "/mount/TQA4R",
        "/mount/TQA4R?step=on",
        "/plan/TQB3S",
        "/plan/TQB3S?sheet=unrolled",
        "/plan/TQB3S?sheet=compared",
        "/cut/TQB2R",
        "/confirm/TQA8Q",
        "/pair/TQB5P",
        "/release/TQA7P",
        "/release/TQA7P?as=shelve",
        "/shelf",
        "/release/TQA7P?as=scrap",
        "/part/TQA2P",
        "/tag/TQA2P",
        "/certificate/TQA2P",
        "/logbook",
        "/figures",
        "/book",
        "/lathes",
        "/lathes/1",
        "/lathes/1?edit=true",
        "/lathes/1/view",
        "/adapters",
        "/techniques",
        "/gauges",
        "/gauges/5?edit=true",
        "/book?edit=true",
        "/techniques/1",
        "/adapters/1",
        "/book/1",
        "/people",
        "/people/1",
        "/shop",
        "/tablets",
        "/files",
        "/check",
        "/own-pin",
        "/proof",
    ];
}
