namespace Uncial.Browser.Tests;

/// <summary>Every page on the screens that a shop has: a phone, tablets both ways round, a laptop, a large screen.</summary>
public class ScreenTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static readonly (int Width, int Height)[] Sizes =
    [
        (1280, 800),
        (1024, 768),
        (1180, 820),
        (768, 1024),
        (820, 1180),
        (1920, 1080),
        (390, 844),
    ];

    [Theory]
    [InlineData(
        "/receive/2421 /receive/2421/TQC4Q /look/TQA5S /measure/TQA5S /measure/TQA4R /measure/TQC3P /measure/TQB5P?at=0 /mount/TQA4R "
            + "/mount/TQB4T"
    )]
    [InlineData(
        "/plan/TQB3S /plan/TQB3S?technique=two-fast-one-slow /plan/TQB3S?sheet=unrolled /plan/TQB3S?sheet=compare "
            + "/plan/TQC5R /cut/TQB2R /confirm/TQA8Q /release/TQA7P /release/TQA7P?as=scrap /release/TQA7P?as=shelve"
    )]
    public void A_station_fits_every_screen_with_its_main_action_in_sight(string pages)
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Marit Sund", "9051");
        foreach (var page in pages.Split(' '))
        {
            screen.Size(1280, 800);
            screen.Go(page);
            foreach (var (width, height) in Sizes)
            {
                screen.Size(width, height);
                screen.Fits(mayScroll: (width, height) is not (1280, 800) and not (1920, 1080));
                // A phone is for looking things up: there one scrolls.
                if (width > 700)
                    screen.ShowsItsMainAction();
            }
        }
    }

    [Theory]
    [InlineData("/ /receive /logbook /figures /book /lathes /gauges /check /shop /tablets")]
    [InlineData("/people /adapters /techniques /files /own-pin /part/TQA7P /lathes/1 /gauges/1 /tag/TQA7P /handbook/measure /handbook/all")]
    [InlineData("/practice /practice/progress /practice/lessons /practice/lesson?from=the-drum-in-the-hat /practice/class")]
    public void A_list_fits_every_screen(string pages)
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Marit Sund", "9051");
        foreach (var page in pages.Split(' '))
        {
            screen.Size(1280, 800);
            screen.Go(page);
            foreach (var (width, height) in Sizes)
            {
                screen.Size(width, height);
                screen.Fits(mayScroll: true);
            }
        }
    }
}

/// <summary>Every page with each word a third longer, as another language may have it.</summary>
public class LongWordTests(PseudoShop shop) : IClassFixture<PseudoShop>
{
    [Fact]
    public void Longer_words_leave_nothing_cut_off_or_under_something_else()
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Marit Sund", "9051");
        foreach (var page in PseudoShop.Pages)
        {
            screen.Go(page);
            screen.Driver.PageSource.ShouldContain("\u2063", customMessage: page);
            screen.Fits(mayScroll: true);
        }
    }
}
