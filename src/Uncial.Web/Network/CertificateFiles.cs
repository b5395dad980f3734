namespace Uncial.Web.Network;

/// <summary>Where certificates and keys of a shop lie, below its data folder.</summary>
/// <param name="Folder">The folder.</param>
public sealed record CertificateFiles(string Folder)
{
    /// <summary>The key of the shop's own authority, in a folder that what serves cannot enter.</summary>
    public string AuthorityKey => Path.Combine(Folder, "authority", "authority.key");

    /// <summary>The certificate of the authority, which tablets are to trust.</summary>
    public string Authority => Path.Combine(Folder, "authority.crt");

    /// <summary>The certificate that the shop shows, with its key.</summary>
    public string Server => Path.Combine(Folder, "server.pem");

    /// <summary>Makes the folders; none but their owner enters that of the authority's key.</summary>
    public void Make()
    {
        Directory.CreateDirectory(Folder);
        var closed = Path.GetDirectoryName(AuthorityKey)!;
        if (OperatingSystem.IsWindows())
            Directory.CreateDirectory(closed);
        else
            Directory.CreateDirectory(closed, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
    }

    /// <summary>Writes a text whole or not at all.</summary>
    /// <param name="path">The file.</param>
    /// <param name="text">The text.</param>
    /// <param name="secret">Its owner alone may read it.</param>
    public static void Write(string path, string text, bool secret)
    {
        var part = path + ".part";
        File.Delete(part);
        var options = new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.Write };
        if (!OperatingSystem.IsWindows())
            options.UnixCreateMode =
                UnixFileMode.UserRead
                | UnixFileMode.UserWrite
                | (secret ? UnixFileMode.None : UnixFileMode.GroupRead | UnixFileMode.OtherRead);
        using (var file = new StreamWriter(part, options))
            file.Write(text);
        File.Move(part, path, overwrite: true);
    }
}
