namespace Uncial.Testing;

/// <summary>Where the sources are.</summary>
public static class Repository
{
    /// <summary>The folder of the whole.</summary>
    public static string Root()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (folder is not null && !File.Exists(Path.Combine(folder.FullName, "Uncial.slnx")))
            folder = folder.Parent;
        return folder?.FullName ?? throw new InvalidOperationException("The tests run inside the checkout.");
    }
}
